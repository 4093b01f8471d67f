import type { TakeMeasures } from '../../core/take/analyse';
import { overlayOf } from '../bench/review/overlay';
import { COLOR } from '../drawings/tokens';
import { degrees, millimetres, plusMinus } from '../drawings/words';
import { facesAt } from './face';

type Canvas2D = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;
type Point = readonly [number, number];

export interface BurnOptions {
  /** An opaque oval over the face, and over those of bystanders. */
  readonly covered: boolean;
}

/** Draws one frame with bow, square and numbers burnt in, over the whole canvas; the canvas has the film's shape. */
export function burnIn(c: Canvas2D, picture: CanvasImageSource, take: TakeMeasures, index: number, { covered }: BurnOptions): void {
  const { width, height } = c.canvas;
  const k = width / take.solution.camera.width;
  const unit = Math.max(width, height) / 960;
  c.drawImage(picture, 0, 0, width, height);
  for (const face of covered ? (facesAt(take, index) ?? []) : []) {
    c.fillStyle = COLOR.spruce;
    c.beginPath();
    c.ellipse(face.x * k, face.y * k, face.rx * k, face.ry * k, 0, 0, 2 * Math.PI);
    c.fill();
    c.strokeStyle = COLOR.edge;
    c.lineWidth = 1.6 * unit;
    c.stroke();
  }
  const overlay = overlayOf(take, index);
  if (!overlay) return;
  const P = (p: Point): [number, number] => [p[0] * k, p[1] * k];
  const line = (a: Point, b: Point, color: string, thick: number, dash: number[] = []) => {
    c.strokeStyle = color;
    c.lineWidth = thick * unit;
    c.setLineDash(dash.map((d) => d * unit));
    c.beginPath();
    c.moveTo(...P(a));
    c.lineTo(...P(b));
    c.stroke();
  };
  c.lineCap = 'round';
  line(overlay.squareFrog, overlay.squareTip, COLOR.film, 4);
  line(overlay.squareFrog, overlay.squareTip, '#fff', 2.2, [2, 7]);
  line(overlay.frog, overlay.tip, COLOR.film, 4.4);
  line(overlay.frog, overlay.tip, '#fff', 2.2);
  c.setLineDash([]);
  c.fillStyle = '#fff';
  c.strokeStyle = COLOR.film;
  c.lineWidth = 2.4 * unit;
  c.beginPath();
  c.arc(...P(overlay.contact), 5.5 * unit, 0, 2 * Math.PI);
  c.fill();
  c.stroke();
  caption(c, captionOf(take, index), unit);
}

/** The numbers of a frame in one line. */
export function captionOf(take: TakeMeasures, index: number): string {
  const { t, values } = take.frames[index]!;
  const parts = [`${t.toFixed(2)} s`];
  if (values.skew_deg) parts.push(`${degrees(values.skew_deg.value)} ${plusMinus(values.skew_deg.u)} from square`);
  if (values.contact_mm) parts.push(`${millimetres(values.contact_mm.value)} ${plusMinus(values.contact_mm.u)} from the bridge`);
  return parts.join(', ');
}

function caption(c: Canvas2D, text: string, unit: number): void {
  c.font = `600 ${Math.round(17 * unit)}px "Source Sans 3 Variable", sans-serif`;
  const wide = c.measureText(text).width + 24 * unit;
  const y = c.canvas.height - 40 * unit;
  c.fillStyle = COLOR.film;
  c.globalAlpha = 0.86;
  c.beginPath();
  c.roundRect(12 * unit, y, wide, 28 * unit, 4 * unit);
  c.fill();
  c.globalAlpha = 1;
  c.fillStyle = '#fff';
  c.textBaseline = 'middle';
  c.fillText(text, 24 * unit, y + 14.5 * unit);
}
