import { useEffect, useRef } from 'react';
import type { TakeMeasures } from '../../core/take/analyse';
import { overlayOf } from '../bench/review/overlay';
import { COLOR } from '../drawings/tokens';
import { facesAt } from '../evidence/face';
import { type OpenFilm, useFramePicture } from '../film/useFilm';

export interface StillProps {
  readonly film: OpenFilm;
  readonly take: TakeMeasures;
  readonly index: number;
  readonly width: number;
  readonly height: number;
  /** Draws the square way of the bow beside its own, named. */
  readonly square: boolean;
  readonly covered: boolean;
}

/** One frame of the film with the bow and its square drawn in, the face covered. Cut so that bow and instrument fill it. */
export function CoveredStill({ film, take, index, width, height, square, covered }: StillProps) {
  const picture = useFramePicture(film, index);
  const canvas = useRef<HTMLCanvasElement>(null);
  const overlay = overlayOf(take, index);
  const faces = facesAt(take, index);
  const { width: w, height: h } = film.facts;
  const view = cut(w, h, width / height, overlay ? [overlay.frog, overlay.tip, overlay.contact] : []);
  const fit = width / view.width;
  useEffect(() => {
    const c = canvas.current;
    if (!c || !picture) return;
    c.width = 2 * width;
    c.height = 2 * height;
    c.getContext('2d')!.drawImage(picture.bitmap, view.x, view.y, view.width, view.height, 0, 0, c.width, c.height);
    c.dataset.frame = String(picture.index);
  }, [picture, width, height, view.x, view.y, view.width, view.height]);
  const X = (p: readonly [number, number]) => (p[0] - view.x) * fit;
  const Y = (p: readonly [number, number]) => (p[1] - view.y) * fit;
  const line = (a: readonly [number, number], b: readonly [number, number]) => `M${X(a).toFixed(1)} ${Y(a).toFixed(1)} L${X(b).toFixed(1)} ${Y(b).toFixed(1)}`;
  return (
    <div className="relative overflow-hidden rounded-plate bg-film" style={{ width, height }}>
      <canvas ref={canvas} className="h-full w-full" role="img" aria-label="A moment of the film with the bow drawn in" />
      <svg className="absolute inset-0" width={width} height={height} aria-hidden>
        {(covered ? (faces ?? []) : []).map((face) => (
          <g key={`${face.x} ${face.y}`} transform={`translate(${X([face.x, face.y]).toFixed(1)} ${Y([face.x, face.y]).toFixed(1)})`}>
            <ellipse rx={face.rx * fit} ry={face.ry * fit} fill={COLOR.spruce} stroke={COLOR.edge} strokeWidth={1.6} />
            <path d="M-2 -13 V9 H-13 Z M2 -13 V9 H13 Z M-18 12 H18" fill="none" stroke={COLOR.edge} strokeWidth={2} strokeLinejoin="round" />
          </g>
        ))}
        {overlay && (
          <g fill="none" strokeLinecap="round">
            {square && <path d={`${line(overlay.contact, overlay.frog)} L${X(overlay.squareFrog)} ${Y(overlay.squareFrog)} Z`} fill={COLOR.rosinTint} opacity={0.65} />}
            {square && <path d={line(overlay.squareFrog, overlay.squareTip)} stroke="#fff" strokeWidth={2.6} strokeDasharray="2 7" />}
            <path d={line(overlay.frog, overlay.tip)} stroke={COLOR.film} strokeWidth={4.6} opacity={0.5} />
            <path d={line(overlay.frog, overlay.tip)} stroke="#fff" strokeWidth={2.6} />
            <circle cx={X(overlay.contact)} cy={Y(overlay.contact)} r={6} fill="#fff" stroke={COLOR.film} strokeWidth={2.4} />
          </g>
        )}
        {overlay && square && <Tag at={[X(overlay.frog), Y(overlay.frog) - 30]} size={[width, height]} text="your bow now" />}
        {overlay && square && <Tag at={along(overlay.contact, overlay.squareFrog, X, Y, height)} size={[width, height]} text="where it should go" />}
      </svg>
    </div>
  );
}

/** A place beside a line, three quarters of its way or where it leaves the picture. */
function along(
  a: readonly [number, number],
  b: readonly [number, number],
  X: (p: readonly [number, number]) => number,
  Y: (p: readonly [number, number]) => number,
  height: number,
) {
  const share = Math.min(0.75, Y(b) > height - 40 ? (height - 40 - Y(a)) / (Y(b) - Y(a)) : 0.75);
  return [X(a) + share * (X(b) - X(a)) + 86, Y(a) + share * (Y(b) - Y(a)) + 12] as const;
}

function Tag({ at, size, text }: { at: readonly [number, number]; size: readonly [number, number]; text: string }) {
  const half = text.length * 3.9 + 10;
  const x = Math.min(size[0] - half - 6, Math.max(half + 6, at[0]));
  const y = Math.min(size[1] - 18, Math.max(18, at[1]));
  return (
    <g transform={`translate(${x.toFixed(1)} ${y.toFixed(1)})`}>
      <rect x={-half} y={-12} width={2 * half} height={24} rx={4} fill={COLOR.film} opacity={0.86} />
      <text y={4.6} fontSize={14} fontWeight={600} textAnchor="middle" fill="#fff">
        {text}
      </text>
    </g>
  );
}

/** A part of the picture of the asked shape that holds the points with room about them, never beyond the picture. */
function cut(w: number, h: number, shape: number, points: readonly (readonly [number, number])[]) {
  const full = w / h > shape ? { width: h * shape, height: h } : { width: w, height: w / shape };
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  const wanted = points.length > 0 ? Math.max((Math.max(...xs) - Math.min(...xs)) * 1.25, (Math.max(...ys) - Math.min(...ys)) * 1.25 * shape, 0.6 * full.width) : full.width;
  const width = Math.min(full.width, wanted);
  const height = width / shape;
  const cx = points.length > 0 ? (Math.max(...xs) + Math.min(...xs)) / 2 : w / 2;
  const cy = points.length > 0 ? (Math.max(...ys) + Math.min(...ys)) / 2 : h / 2;
  return { x: Math.min(w - width, Math.max(0, cx - width / 2)), y: Math.min(h - height, Math.max(0, cy - height / 2)), width, height };
}
