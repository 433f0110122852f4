'use client';

import type { ReactNode } from 'react';
import type { z } from 'zod';
import type { Stage } from '../../core/lane/schema';
import { useSession } from '../track/context';
import { StageSetting } from './stage-setting';

/** What the panel of a stage is made of: a row for a numeric setting, and a way to set the others. */
interface Controls<Settings> {
  set: (label: string, part: Partial<Settings>) => void;
  quantity: (name: keyof Settings & string, disabled?: boolean) => ReactNode;
}

/** Controls of a stage whose settings a Zod shape describes. */
export function useControls<Kept extends Stage>(
  stage: Kept,
  shape: Record<keyof Kept['settings'], z.ZodType>,
): Controls<Kept['settings']> {
  const session = useSession();
  return {
    set: (label, part) => session.setStage(stage, label, part),
    quantity: (name, disabled = false) => (
      <StageSetting key={name} stage={stage} shape={shape} name={name} disabled={disabled} />
    ),
  };
}
