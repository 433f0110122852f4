/** Memory that everything rendered on a page shares: what asks for more than is left has unused buffers given up first. */
export class MemoryBudget {
  private used = 0;
  private readonly reclaims: (() => void)[] = [];

  constructor(readonly bytes: number) {}

  /** Whether there is room for some bytes as things are. */
  fits(bytes: number): boolean {
    return this.used + bytes <= this.bytes;
  }

  /** Takes some bytes; false when there is no room for them. */
  take(bytes: number): boolean {
    if (!this.fits(bytes)) for (const reclaim of this.reclaims) reclaim();
    if (!this.fits(bytes)) return false;
    this.used += bytes;
    return true;
  }

  give(bytes: number): void {
    this.used -= bytes;
  }

  /** Has something that holds unused buffers give them back when memory is wanted. */
  onWanted(reclaim: () => void): void {
    this.reclaims.push(reclaim);
  }
}
