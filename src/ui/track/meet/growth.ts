import type { EncodeCheck, PassageEncodes, ProgrammeFiguresTold } from '../../../contracts/encode-check';
import type { Encode } from '../../../core/deliver/encode';
import type { EncodeGrowth } from '../../../core/deliver/encode-margin';
import { louder } from '../../../core/measure/intake-report';

/** By how much encodes of a master go beyond it: of the whole where that was checked, else of the loudest passage. */
export function growthOf(checks: readonly EncodeCheck[], passage: PassageEncodes | null): EncodeGrowth[] {
  const growth = (encode: Encode, of: ProgrammeFiguresTold, master: ProgrammeFiguresTold) => {
    const [after, before] = [louder(of.truePeaksDbtp), louder(master.truePeaksDbtp)];
    return after === null || before === null
      ? []
      : [{ codec: encode.codec, kbps: encode.kbps, growthDb: after - before }];
  };
  const whole = checks.flatMap((each) => (each.result ? growth(each, each.result.encode, each.result.source) : []));
  return [...whole, ...(passage?.encodes.flatMap((each) => growth(each, each.figures, passage.source)) ?? [])];
}
