'use client';

import CheckIcon from '@mui/icons-material/Check';
import CloseIcon from '@mui/icons-material/Close';
import HelpIcon from '@mui/icons-material/HelpOutlineOutlined';
import Box from '@mui/material/Box';
import type { AdjustedVerdict } from '../../contracts/adjustment';
import type { Standing } from '../../core/deliver/requirement';
import type { Verdict } from '../../core/deliver/verdict';
import { figure } from './format';

const MARKS = {
  meets: { Icon: CheckIcon, color: 'success.main', word: 'meets' },
  misses: { Icon: CloseIcon, color: 'error.main', word: 'misses' },
  unknown: { Icon: HelpIcon, color: 'text.secondary', word: 'not known yet' },
} as const;

/** What misses first, in its own words; else the word of the standing. */
export function verdictWords({ standing, requirements }: Verdict): string {
  const [miss] = requirements.filter((requirement) => requirement.standing === 'misses' && !requirement.advice);
  return standing === 'misses' && miss ? miss.miss : MARKS[standing].word;
}

/** Icon and word of a verdict; never colour alone. */
export function StandingMark({ standing, words }: { standing: Standing; words?: string }) {
  const { Icon, color, word } = MARKS[standing];
  return (
    <Box
      component="span"
      sx={{
        display: 'inline-flex',
        alignItems: 'center',
        gap: 0.5,
        color,
        fontWeight: 650,
        fontSize: 12,
        lineHeight: 'inherit',
        whiteSpace: 'nowrap',
      }}
    >
      <Icon sx={{ fontSize: 15 }} aria-hidden />
      {words ?? word}
    </Box>
  );
}

/** What misses, or the word of the standing, with the level that it is given, and whether that was set for another lane. */
export function adjustedWords({ verdict, levelDb, outdated }: AdjustedVerdict): string {
  return verdictWords(verdict) + changedWords(levelDb) + (outdated ? ', set for an earlier lane' : '');
}

/** ", lowered 9.0 dB"; nothing where the level stays. */
export function changedWords(byDb: number): string {
  return byDb === 0 ? '' : `, ${byDb < 0 ? 'lowered' : 'raised'} ${figure(Math.abs(byDb))} dB`;
}
