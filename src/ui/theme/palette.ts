/** Colours by role. Copper is what came in, patina what goes out, ink the difference; ochre cautions, brick misses. */
export interface Palette {
  paper: string;
  raised: string;
  sunken: string;
  ink: string;
  quiet: string;
  hairline: string;
  copper: string;
  patina: string;
  ochre: string;
  brick: string;
}

export const DAYLIGHT: Palette = {
  paper: '#F7F2EA',
  raised: '#FFFCF6',
  sunken: '#F0E7DA',
  ink: '#22262B',
  quiet: '#625D55',
  hairline: '#DDD3C4',
  copper: '#A8552A',
  patina: '#2A7469',
  ochre: '#8A6108',
  brick: '#9E3325',
};

export const NIGHT: Palette = {
  paper: '#1F1B18',
  raised: '#292420',
  sunken: '#181512',
  ink: '#EFE7DB',
  quiet: '#B0A597',
  hairline: '#443C34',
  copper: '#DB8F61',
  patina: '#62B8A8',
  ochre: '#DDAE4B',
  brick: '#EB8673',
};
