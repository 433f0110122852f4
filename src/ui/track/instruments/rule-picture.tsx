'use client';

import { Picture } from '../../kit/picture';
import { usePalette } from '../../theme/use-palette';
import { useTransport } from '../context';
import { drawRule, type Rule, type RuleLevels } from './draw-rule';

/** A rule with both channels of a place. */
export function RulePicture({
  label,
  rule,
  levels,
  color,
}: {
  label: string;
  rule: Rule;
  levels: () => readonly RuleLevels[];
  color: string;
}) {
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  return (
    <Picture label={label} moving={playing} draw={(surface) => drawRule(surface, rule, levels(), color, palette)} />
  );
}
