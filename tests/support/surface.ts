import type { Surface } from '@/ui/kit/use-canvas';

export interface DrawnText {
  text: string;
  x: number;
  y: number;
  color: string;
}

export interface DrawnBox {
  x: number;
  y: number;
  width: number;
  height: number;
  color: string;
}

export interface DrawnPath {
  points: [x: number, y: number][];
  color: string;
  filled: boolean;
  dashed: boolean;
}

/** A surface that keeps what is drawn on it instead of showing it. */
export interface RecordedSurface extends Surface {
  texts: DrawnText[];
  boxes: DrawnBox[];
  paths: DrawnPath[];
  /** Texts as they are read, in the order in which they were drawn. */
  words(): string[];
}

export function recordedSurface(width: number, height: number): RecordedSurface {
  const [texts, boxes, paths]: [DrawnText[], DrawnBox[], DrawnPath[]] = [[], [], []];
  let points: [number, number][] = [];
  let dashed = false;
  const point = (x: number, y: number) => void points.push([x, y]);
  const keep = (filled: boolean) => {
    const color = String(filled ? context.fillStyle : context.strokeStyle);
    paths.push({ points: [...points], color, filled, dashed });
  };
  const nothing = () => {};
  const context = {
    fillStyle: '',
    strokeStyle: '',
    beginPath: () => (points = []),
    moveTo: point,
    lineTo: point,
    bezierCurveTo: (_a: number, _b: number, _c: number, _d: number, x: number, y: number) => point(x, y),
    arc: point,
    fill: () => keep(true),
    stroke: () => keep(false),
    fillRect: (x: number, y: number, w: number, h: number) =>
      boxes.push({ x, y, width: w, height: h, color: context.fillStyle }),
    fillText: (text: string, x: number, y: number) => texts.push({ text, x, y, color: context.fillStyle }),
    setLineDash: (dash: number[]) => (dashed = dash.length > 0),
    createLinearGradient: () => ({ addColorStop: nothing }),
    rect: nothing,
    clip: nothing,
    save: nothing,
    restore: nothing,
    closePath: nothing,
  };
  const words = () => texts.map(({ text }) => text);
  return { context: context as unknown as CanvasRenderingContext2D, width, height, texts, boxes, paths, words };
}
