import type { Wire } from '../../../vision/workers/solve.worker';
import { COLOR } from '../../drawings/tokens';
import { CHAINS } from './points';

type Point = readonly [number, number];

export interface MarkLayerProps {
  readonly width: number;
  readonly height: number;
  /** Screen pixels a film pixel. */
  readonly scale: number;
  readonly wire: Wire | undefined;
  readonly points: Readonly<Record<string, Point>>;
  readonly guessed: readonly string[];
  /** Points found by the network, not by the teacher. */
  readonly found: readonly string[];
  /** Points offered but not accepted. */
  readonly offered: Readonly<Record<string, Point>>;
  readonly plumb: readonly Point[];
  readonly selected: string | undefined;
  /** Where the next mark would go. */
  readonly aim: Point | undefined;
}

/** Everything drawn over the film while marking: the solved wire, marks, offers, the plumb line, the aim. */
export function MarkLayer({ width, height, scale, wire, points, guessed, found, offered, plumb, selected, aim }: MarkLayerProps) {
  const at = ([x, y]: Point) => `${(x * scale).toFixed(1)} ${(y * scale).toFixed(1)}`;
  const all = { ...offered, ...points };
  const [frog, tip] = [all['bow.frog'], all['bow.tip']];
  const bowOffered = !points['bow.frog'] || !points['bow.tip'];
  return (
    <svg className="pointer-events-none absolute inset-0" width={width} height={height} aria-hidden>
      {wire && (
        <g fill="none" strokeLinejoin="round">
          {wire.lines.map((line, i) => {
            const d = `M${line.map(at).join(' L')}`;
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: lines of the wire have no name, only their place
              <g key={i}>
                <path d={d} stroke={COLOR.film} strokeOpacity={0.55} strokeWidth={3} />
                <path d={d} stroke={COLOR.wire} strokeWidth={1.3} />
              </g>
            );
          })}
        </g>
      )}
      {frog && tip && <path d={`M${at(frog)} L${at(tip)}`} stroke={COLOR.wire} strokeWidth={1.4} strokeDasharray={bowOffered ? '6 4' : undefined} />}
      {CHAINS.map((chain) => {
        const placed = chain.flatMap((name): Point[] => (points[name] ? [points[name]] : []));
        if (placed.length < 2) return null;
        const d = `M${placed.map(at).join(' L')}`;
        return (
          <g key={chain[0]} fill="none" strokeLinejoin="round">
            <path d={d} stroke={COLOR.film} strokeOpacity={0.6} strokeWidth={3.4} />
            <path d={d} stroke={COLOR.wire} strokeWidth={1.4} />
          </g>
        );
      })}
      {plumb.length === 2 && (
        <g fill="none">
          <path d={`M${at(plumb[0]!)} L${at(plumb[1]!)}`} stroke={COLOR.film} strokeOpacity={0.6} strokeWidth={4} />
          <path d={`M${at(plumb[0]!)} L${at(plumb[1]!)}`} stroke="#fff" strokeWidth={1.6} strokeDasharray="1 4" strokeLinecap="round" />
        </g>
      )}
      {plumb.map((p, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the two ends of one line
        <path key={i} d={`M${p[0] * scale - 5} ${p[1] * scale} H${p[0] * scale + 5}`} stroke="#fff" strokeWidth={2} />
      ))}
      {Object.entries(offered).map(([name, p]) => (
        <circle key={name} cx={p[0] * scale} cy={p[1] * scale} r={4.6} fill="none" stroke={COLOR.wire} strokeWidth={1.6} strokeDasharray="2.5 2" />
      ))}
      {Object.entries(points).map(([name, p]) => (
        <circle
          key={name}
          cx={p[0] * scale}
          cy={p[1] * scale}
          r={name === selected ? 7 : found.includes(name) ? 3.4 : 4.6}
          fill={name === selected ? 'none' : found.includes(name) ? COLOR.wire : '#fff'}
          stroke={name === selected ? COLOR.rosinTint : COLOR.film}
          strokeWidth={name === selected ? 2.4 : 1.6}
          strokeDasharray={guessed.includes(name) ? '3 2' : undefined}
        />
      ))}
      {aim && <circle cx={aim[0] * scale} cy={aim[1] * scale} r={11} fill="none" stroke={COLOR.rosinTint} strokeWidth={2.2} />}
    </svg>
  );
}
