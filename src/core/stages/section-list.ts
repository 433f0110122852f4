import type { Kernels } from '../kernels/host';
import { SECTION_BYTES } from '../kernels/layout';
import type { Biquad } from '../signal/biquad';
import { clearSection, copySectionState, writeSection } from './section';

/** Up to a given number of sections in series, the same for both channels. */
export class SectionList {
  private readonly sections: number;
  private readonly list: number;
  private readonly gain: number;
  private count = 0;

  constructor(
    private readonly kernels: Kernels,
    most: number,
  ) {
    this.sections = kernels.allocate(most * SECTION_BYTES);
    this.list = kernels.allocate(most * 4);
    this.gain = kernels.allocate(16);
    for (let i = 0; i < most; i++) kernels.u32[(this.list >> 2) + i] = this.sections + i * SECTION_BYTES;
  }

  /** Takes other sections, and a gain before them; a list of the same length continues from `before`. */
  set(sections: readonly Biquad[], before?: SectionList, gain = 1): void {
    const { f64 } = this.kernels;
    sections.forEach((section, i) => {
      const at = i * SECTION_BYTES;
      writeSection(f64, this.sections + at, section, section);
      if (before?.count === sections.length) copySectionState(f64, before.sections + at, this.sections + at);
      else clearSection(f64, this.sections + at);
    });
    f64.fill(gain, this.gain >> 3, (this.gain >> 3) + 2);
    this.count = sections.length;
  }

  process(left: number, right: number, frames: number): void {
    if (this.count > 0) this.kernels.run.cascade(this.list, this.count, 0, this.gain, left, right, frames);
  }
}
