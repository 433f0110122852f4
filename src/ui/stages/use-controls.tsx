'use client';

import type { ReactNode } from 'react';
import type { z } from 'zod';
import type { Stage } from '../../core/lane/schema';
import { settingSchema } from '../../core/lane/stage-edits';
import { describe, describeChoice, describeToggle } from '../../core/stages/setting';
import { ChoiceRow } from '../kit/choice-row';
import { SwitchRow } from '../kit/switch-row';
import { useEditor } from '../track/context';
import { StageQuantity } from './stage-quantity';

/** What the panel of a stage is made of: rows for its settings, and a way to set several at once. */
interface Controls<Settings> {
  set: (label: string, part: Partial<Settings>) => void;
  quantity: (name: keyof Settings & string, disabled?: boolean) => ReactNode;
  choice: (name: keyof Settings & string) => ReactNode;
  toggle: (name: keyof Settings & string) => ReactNode;
  /** The help of what is chosen, to stand in the panel. */
  optionHelp: (name: keyof Settings & string) => string | undefined;
}

/** Rows for the settings of a stage, as its schema describes them. */
export function useControls<Kept extends Stage>(stage: Kept): Controls<Kept['settings']> {
  const editor = useEditor();
  const schema = (name: string) => settingSchema(stage, name);
  const valueOf = (name: string) => (stage.settings as unknown as Record<string, never>)[name];
  return {
    set: (label, part) => editor.lane.setStage(stage, label, part),
    quantity(name, disabled = false) {
      const quantity = describe(schema(name));
      return (
        <StageQuantity
          key={name}
          stage={stage.id}
          control={name}
          quantity={quantity}
          value={valueOf(name)}
          disabled={disabled}
          onChange={(value) => editor.lane.setSetting(stage.id, quantity.title, name, value)}
        />
      );
    },
    choice(name) {
      const choice = describeChoice(schema(name) as z.ZodType<string | number>);
      return (
        <ChoiceRow
          key={name}
          choice={choice}
          value={valueOf(name)}
          onChange={(value) => editor.lane.setSetting(stage.id, choice.title, name, value)}
        />
      );
    },
    toggle(name) {
      const { title, help } = describeToggle(schema(name));
      return (
        <SwitchRow
          key={name}
          title={title}
          help={help}
          on={valueOf(name)}
          onChange={(on) => editor.lane.setSetting(stage.id, `${title} ${on ? 'on' : 'off'}`, name, on)}
        />
      );
    },
    optionHelp(name) {
      const { options } = describeChoice(schema(name) as z.ZodType<string | number>);
      return options.find(({ value }) => value === valueOf(name))?.help;
    },
  };
}
