/** An impulse response that was uploaded; rooms name it by its identifier. */
export interface ImpulseSummary {
  id: string;
  name: string;
  seconds: number;
}
