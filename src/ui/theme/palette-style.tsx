import { DAYLIGHT, NIGHT, type Palette } from './palette';

const variables = (palette: Palette) =>
  Object.entries(palette)
    .map(([role, colour]) => `--${role}:${colour}`)
    .join(';');

/** The palette as custom properties for pages without the component library: night where the device is set to dark. */
export function PaletteStyle() {
  const css = `:root{color-scheme:light dark;${variables(DAYLIGHT)}}@media(prefers-color-scheme:dark){:root{${variables(NIGHT)}}}`;
  return <style>{css}</style>;
}
