'use client';

import type { z } from 'zod';
import type { Stage } from '../../core/lane/schema';
import { describe } from '../../core/stages/definition';
import { useSession } from '../track/context';
import { StageQuantity } from './stage-quantity';

/** The control of a numeric setting that stands by itself in the settings of a stage. */
export function StageSetting<Kept extends Stage>({
  stage,
  shape,
  name,
  disabled,
}: {
  stage: Kept;
  shape: Record<keyof Kept['settings'], z.ZodType>;
  name: keyof Kept['settings'] & string;
  disabled?: boolean;
}) {
  const session = useSession();
  const quantity = describe(shape[name]);
  return (
    <StageQuantity
      stage={stage.id}
      control={name}
      quantity={quantity}
      value={(stage.settings as Record<string, unknown>)[name] as number}
      disabled={disabled}
      onChange={(value) => session.setNumber(stage.id, quantity.title, name, value)}
    />
  );
}
