'use client';

import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';

/** A field of a form with a few values to choose from. */
export function ChoiceField<Value extends string | number>({
  label,
  value,
  options,
  onChange,
  width = 200,
}: {
  label: string;
  value: Value;
  options: readonly { value: Value; title: string }[];
  onChange: (value: Value) => void;
  width?: number;
}) {
  return (
    <TextField
      {...{ select: true, size: 'small', label, value, sx: { width } }}
      onChange={({ target }) =>
        onChange(options.find((each) => String(each.value) === String(target.value))?.value ?? value)
      }
    >
      {options.map((option) => (
        <MenuItem key={option.value} value={option.value}>
          {option.title}
        </MenuItem>
      ))}
    </TextField>
  );
}
