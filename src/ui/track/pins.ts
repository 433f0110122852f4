import type { Pin } from '../../contracts/version';

/** Pins without those of a stage's band; those of the bands after it move up. */
export function withoutBandPins(pins: readonly Pin[], stage: string, band: number): Pin[] {
  return pins.flatMap((pin) => {
    const [, number, rest] = /^bands\.(\d+)\.(.+)$/.exec(pin.control) ?? [];
    if (pin.stage !== stage || number === undefined || Number(number) < band) return [pin];
    return Number(number) === band ? [] : [{ ...pin, control: `bands.${Number(number) - 1}.${rest}` }];
  });
}

/** Pins with those of a stage given to its copy too. */
export function withCopiedPins(pins: readonly Pin[], from: string, to: string): Pin[] {
  return [...pins, ...pins.filter(({ stage }) => stage === from).map((pin) => ({ ...pin, stage: to }))];
}
