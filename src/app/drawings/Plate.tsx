import type { ReactNode } from 'react';
import { HatchPattern } from './signs';
import { COLOR } from './tokens';

/** The ground every drawing stands on: rounded, with an edge, nothing beyond it. `hatch` is the id under which children find the hatching. */
export function Plate({
  width,
  height,
  label,
  hatch,
  ground = COLOR.spruce,
  children,
}: {
  width: number;
  height: number;
  label: string;
  hatch: string;
  ground?: string;
  children: ReactNode;
}) {
  const clip = `${hatch}-plate`;
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} role="img" aria-label={label}>
      <defs>
        <HatchPattern id={hatch} />
        <clipPath id={clip}>
          <rect width={width} height={height} rx={5} />
        </clipPath>
      </defs>
      <g clipPath={`url(#${clip})`}>
        <rect width={width} height={height} fill={ground} />
        {children}
      </g>
      <rect x={0.5} y={0.5} width={width - 1} height={height - 1} rx={5} fill="none" stroke={COLOR.edge} />
    </svg>
  );
}
