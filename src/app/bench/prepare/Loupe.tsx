import { useEffect, useRef } from 'react';

const RADIUS = 92;
const ZOOM = 4;

/** The picture about a point, enlarged, in the corner farthest from it. */
export function Loupe({
  picture,
  point,
  shown,
  width,
  height,
}: {
  picture: ImageBitmap;
  point: readonly [number, number];
  shown: readonly [number, number];
  width: number;
  height: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const left = shown[0] > width / 2;
  const top = shown[1] > height / 2;
  const cx = left ? RADIUS + 18 : width - RADIUS - 18;
  const cy = top ? RADIUS + 18 : height - RADIUS - 18;
  useEffect(() => {
    const c = canvas.current?.getContext('2d');
    if (!c) return;
    c.imageSmoothingEnabled = false;
    c.fillStyle = '#14181A';
    c.fillRect(0, 0, 2 * RADIUS, 2 * RADIUS);
    const half = RADIUS / ZOOM;
    c.drawImage(picture, point[0] - half, point[1] - half, 2 * half, 2 * half, 0, 0, 2 * RADIUS, 2 * RADIUS);
  }, [picture, point]);
  return (
    <div className="pointer-events-none absolute inset-0" aria-hidden>
      <svg className="absolute inset-0" width={width} height={height}>
        <line x1={cx} y1={cy} x2={shown[0]} y2={shown[1]} stroke="#fff" strokeWidth={1.2} opacity={0.8} />
      </svg>
      <canvas
        ref={canvas}
        width={2 * RADIUS}
        height={2 * RADIUS}
        className="absolute rounded-full border-[3px] border-white"
        style={{ left: cx - RADIUS, top: cy - RADIUS, width: 2 * RADIUS, height: 2 * RADIUS }}
      />
      <svg className="absolute inset-0" width={width} height={height}>
        <g stroke="#fff" opacity={0.7}>
          <line x1={cx - RADIUS} x2={cx - 10} y1={cy} y2={cy} />
          <line x1={cx + 10} x2={cx + RADIUS} y1={cy} y2={cy} />
          <line y1={cy - RADIUS} y2={cy - 10} x1={cx} x2={cx} />
          <line y1={cy + 10} y2={cy + RADIUS} x1={cx} x2={cx} />
        </g>
        <circle cx={cx} cy={cy} r={9} fill="none" stroke="#F0C778" strokeWidth={2} />
      </svg>
    </div>
  );
}
