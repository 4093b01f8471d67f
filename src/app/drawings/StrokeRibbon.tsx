import type { FrameMeasures, Measured } from '../../core/measures/measures';
import type { Rubric } from '../../core/rubric/rubric';
import { type Stroke, THIRDS } from '../../core/strokes/stroke';
import { SoundRow, type SoundRowProps } from './SoundRow';
import { BowSign, HatchPattern, useHatch } from './signs';
import { COLOR, type Sign, STRING_WEIGHT, signColor, signText, signTint } from './tokens';
import { degrees } from './words';

/** A stretch of time to be shown on the ribbon as a slice. */
export interface Slice {
  readonly from: number;
  readonly to: number;
  readonly sign: Sign;
}

export interface RibbonProps {
  readonly width: number;
  /** Left edge of time, px: names of the rows stand before it. */
  readonly left: number;
  readonly frames: readonly FrameMeasures[];
  readonly strokes: readonly Stroke[];
  readonly duration: number;
  readonly bands: Rubric['bands'];
  readonly now: number;
  readonly slices: readonly Slice[];
  /** Sign of a stroke's third by its skew, from the findings. */
  readonly signOf: (stroke: number, at: number) => Sign;
  readonly onSeek: (t: number) => void;
  /** What was heard, in film time; absent without sound. */
  readonly sound?: SoundRowProps;
}

const SAILS_TOP = 16;
const SAILS = 66;
const TRACK = 30;
const SKEW_TOP = SAILS_TOP + SAILS + 10;
const CONTACT_TOP = SKEW_TOP + TRACK + 4;
const AXIS = CONTACT_TOP + TRACK + 14;
export const RIBBON_HEIGHT = AXIS + 8;

/** Time as sails: one a stroke, upper edge the part of the bow; below, the bow's angle and contact over the same time. */
export function StrokeRibbon({ width, left, frames, strokes, duration, bands, now, slices, signOf, onSeek, sound }: RibbonProps) {
  const hatch = useHatch();
  const right = width - 16;
  const T = (t: number) => left + (t / duration) * (right - left);
  const P = (p: number) => SAILS_TOP + SAILS - p * SAILS;
  const current = strokes.find((s) => now >= s.from - 0.02 && now <= s.to + 0.02);
  const gaps = missingSpans(frames, (f) => f.values.bow_position !== undefined);
  const step = duration <= 12 ? 1 : duration <= 40 ? 5 : 10;
  const seek = (event: React.MouseEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const t = ((event.clientX - box.left - left) / (right - left)) * duration;
    if (t >= -0.05 && t <= duration * 1.02) onSeek(Math.min(duration, Math.max(0, t)));
  };
  return (
    <svg
      width={width}
      height={RIBBON_HEIGHT}
      viewBox={`0 0 ${width} ${RIBBON_HEIGHT}`}
      role="img"
      aria-label={`${strokes.length} bows over ${duration.toFixed(1)} seconds`}
      onClick={seek}
      className="cursor-pointer select-none"
    >
      <defs>
        <HatchPattern id={hatch} />
      </defs>
      {sound && <SoundRow {...sound} left={left} T={T} />}
      {[0, 1 / 3, 2 / 3, 1].map((p) => (
        <line key={p} x1={left} x2={right} y1={P(p)} y2={P(p)} stroke={p === 0 || p === 1 ? '#9aa3a0' : COLOR.rule} />
      ))}
      {(['frog', 'middle', 'tip'] as const).map((name, i) => (
        <text key={name} x={left - 12} y={P((i + 0.5) / 3) + 4} fontSize={12.5} textAnchor="end" fill={COLOR.soft}>
          {name}
        </text>
      ))}
      {strokes.map((stroke) => (
        <Sail key={stroke.index} stroke={stroke} frames={frames} T={T} P={P} slices={slices} signOf={signOf} onSeek={onSeek} />
      ))}
      {gaps.map((g) => (
        <rect key={g.from} x={T(g.from)} width={Math.max(1, T(g.to) - T(g.from))} y={SAILS_TOP} height={SAILS} fill={`url(#${hatch})`} />
      ))}
      {current && <line x1={T(current.from)} x2={T(current.to)} y1={SAILS_TOP + SAILS + 5} y2={SAILS_TOP + SAILS + 5} stroke={COLOR.sea} strokeWidth={4} />}
      <Track
        top={SKEW_TOP}
        T={T}
        left={left}
        right={right}
        frames={frames}
        read={(f) => f.values.skew_deg}
        range={[-20, 20]}
        good={[-bands.skew.good, bands.skew.good]}
        fault={[-bands.skew.fault, bands.skew.fault]}
        names={['to scroll', 'to player']}
        hatch={hatch}
      />
      <Track
        top={CONTACT_TOP}
        T={T}
        left={left}
        right={right}
        frames={frames}
        read={(f) => f.values.contact_fraction}
        range={[0, 1.15]}
        good={[bands.contactFraction.middle - bands.contactFraction.good, bands.contactFraction.middle + bands.contactFraction.good]}
        fault={[bands.contactFraction.middle - bands.contactFraction.fault, bands.contactFraction.middle + bands.contactFraction.fault]}
        names={['fingerboard', 'bridge']}
        hatch={hatch}
        woods
      />
      {Array.from({ length: Math.floor(duration / step) + 1 }, (_, i) => i * step).map((t) => (
        <text key={t} x={T(t)} y={AXIS} fontSize={12.5} textAnchor="middle" fill={COLOR.soft}>
          {t}
        </text>
      ))}
      <line x1={T(now)} x2={T(now)} y1={SAILS_TOP - 2} y2={AXIS - 12} stroke={COLOR.sea} strokeWidth={1.6} />
      <rect x={T(now) - 20} y={AXIS - 14} width={40} height={18} rx={4} fill={COLOR.sea} />
      <text x={T(now)} y={AXIS} fontSize={12.5} fontWeight={700} textAnchor="middle" fill="#fff">
        {now.toFixed(2)}
      </text>
    </svg>
  );
}

function missingSpans(frames: readonly FrameMeasures[], known: (f: FrameMeasures) => boolean): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = [];
  let start: number | undefined;
  frames.forEach((f, i) => {
    if (!known(f)) start ??= f.t;
    if (start !== undefined && (known(f) || i === frames.length - 1)) {
      if (f.t - start >= 0.08) out.push({ from: start, to: f.t });
      start = undefined;
    }
  });
  return out;
}

function Sail({
  stroke,
  frames,
  T,
  P,
  slices,
  signOf,
  onSeek,
}: {
  stroke: Stroke;
  frames: readonly FrameMeasures[];
  T: (t: number) => number;
  P: (p: number) => number;
  slices: readonly Slice[];
  signOf: (stroke: number, at: number) => Sign;
  onSeek: (t: number) => void;
}) {
  const edge = frames.slice(stroke.first, stroke.last + 1).flatMap((f) => (f.values.bow_position ? [[f.t, f.values.bow_position.value] as const] : []));
  if (edge.length < 2) return null;
  const foot = P(Math.min(stroke.fromPosition, stroke.toPosition));
  const line = edge.map(([t, p]) => `${T(t).toFixed(1)} ${P(p).toFixed(1)}`).join(' L');
  const x0 = T(edge[0]![0]);
  const x1 = T(edge[edge.length - 1]![0]);
  const wide = x1 - x0;
  const mine = slices.filter((s) => s.from < stroke.to && s.to > stroke.from);
  const positionAt = (t: number) => edge.reduce((a, b) => (Math.abs(b[0] - t) < Math.abs(a[0] - t) ? b : a))[1];
  return (
    <g
      onClick={(event) => {
        event.stopPropagation();
        onSeek(stroke.from + (stroke.to - stroke.from) * Math.min(1, Math.max(0, (event.nativeEvent.offsetX - x0) / wide)));
      }}
    >
      <path d={`M${x0} ${foot} L${line} L${x1} ${foot} Z`} fill={COLOR.spruce} />
      {mine.map((s) => {
        const a = Math.max(s.from, stroke.from);
        const b = Math.min(s.to, stroke.to);
        const part = edge.filter(([t]) => t >= a && t <= b);
        if (part.length < 2) return null;
        const top = part.map(([t, p]) => `${T(t).toFixed(1)} ${P(p).toFixed(1)}`).join(' L');
        return (
          <g key={`${s.from}-${s.sign}`}>
            <path d={`M${T(part[0]![0])} ${foot} L${top} L${T(part[part.length - 1]![0])} ${foot} Z`} fill={signTint(s.sign)} stroke={signColor(s.sign)} strokeWidth={1.4} />
            {s.sign === 'confirmed' && <rect x={T(part[0]![0])} width={T(part[part.length - 1]![0]) - T(part[0]![0])} y={foot - 5} height={5} fill={COLOR.madder} />}
          </g>
        );
      })}
      <path d={`M${x0} ${foot} H${x1}`} stroke={COLOR.ink} strokeWidth={1} />
      <path d={`M${x1} ${foot} V${P(edge[edge.length - 1]![1])} M${x0} ${foot} V${P(edge[0]![1])}`} stroke="#9a9a8c" strokeWidth={1} />
      <path d={`M${line}`} fill="none" stroke={COLOR.ink} strokeWidth={0.6 + (STRING_WEIGHT[stroke.string ?? 'A'] ?? 1.7) * 0.8} strokeLinejoin="round" />
      {wide > 40 && <BowSign x={x0 + wide * (stroke.direction === 'down' ? 0.62 : 0.38)} y={foot - 9} direction={stroke.direction} />}
      {wide > 40 &&
        THIRDS.map((third) => {
          const skew = stroke.thirds[third].skew_deg;
          const inside = edge.filter(([, p]) => (third === 'frog' ? p < 1 / 3 : third === 'tip' ? p >= 2 / 3 : p >= 1 / 3 && p < 2 / 3));
          if (!skew || inside.length < 2) return null;
          const t = inside[inside.length >> 1]![0];
          const sign = signOf(stroke.index, t);
          const x = T(t);
          const y = P(positionAt(t));
          const a = (2 * skew.value * Math.PI) / 180;
          const dx = Math.sin(a) * 13;
          const dy = Math.cos(a) * 13;
          return (
            <g key={third}>
              <line x1={x - dx} y1={y + dy} x2={x + dx} y2={y - dy} stroke={COLOR.fog} strokeWidth={4.6} />
              <line x1={x - dx} y1={y + dy} x2={x + dx} y2={y - dy} stroke={signColor(sign)} strokeWidth={2.4} />
              {wide > 90 && (sign === 'found' || sign === 'confirmed') && (
                <text
                  x={x + dx + (a >= 0 ? -17 : 17)}
                  y={Math.max(SAILS_TOP + 9, y - dy - 3)}
                  fontSize={12.5}
                  fontWeight={700}
                  textAnchor="middle"
                  fill={signText(sign)}
                  stroke={COLOR.fog}
                  strokeWidth={3.4}
                  paintOrder="stroke"
                >
                  {degrees(skew.value)}
                </text>
              )}
            </g>
          );
        })}
    </g>
  );
}

function Track({
  top,
  T,
  left,
  right,
  frames,
  read,
  range,
  good,
  fault,
  names,
  hatch,
  woods = false,
}: {
  top: number;
  T: (t: number) => number;
  left: number;
  right: number;
  frames: readonly FrameMeasures[];
  read: (f: FrameMeasures) => Measured | undefined;
  range: readonly [number, number];
  good: readonly [number, number];
  fault: readonly [number, number];
  names: readonly [string, string];
  hatch: string;
  woods?: boolean;
}) {
  const Y = (v: number) => top + TRACK - ((Math.min(range[1], Math.max(range[0], v)) - range[0]) / (range[1] - range[0])) * TRACK;
  const runs: FrameMeasures[][] = [];
  let last = -2;
  frames.forEach((f, i) => {
    if (!read(f)) return;
    if (i !== last + 1) runs.push([]);
    runs[runs.length - 1]!.push(f);
    last = i;
  });
  const gaps = missingSpans(frames, (f) => read(f) !== undefined);
  return (
    <g>
      <rect x={left} width={right - left} y={top} height={TRACK} fill={COLOR.spruce} />
      <rect x={left} width={right - left} y={Y(good[1])} height={Y(good[0]) - Y(good[1])} fill={COLOR.lit} stroke={COLOR.edge} strokeWidth={0.8} />
      {woods && <rect x={left} width={right - left} y={top} height={Y(1) - top} fill={COLOR.ebony} />}
      {woods && <rect x={left} width={right - left} y={top + TRACK - 2.4} height={2.4} fill={COLOR.bridge} />}
      {runs.map((run) => {
        const upper = run.map((f) => `${T(f.t).toFixed(1)} ${Y(read(f)!.value + 2 * read(f)!.u).toFixed(1)}`);
        const lower = [...run].reverse().map((f) => `${T(f.t).toFixed(1)} ${Y(read(f)!.value - 2 * read(f)!.u).toFixed(1)}`);
        return (
          <g key={run[0]!.frame}>
            <path d={`M${[...upper, ...lower].join(' L')} Z`} fill={COLOR.ink} opacity={0.2} />
            {run.slice(1).map((f, i) => {
              const v = read(f)!.value;
              const out = v > fault[1] || v < fault[0];
              return (
                <line
                  key={f.frame}
                  x1={T(run[i]!.t)}
                  y1={Y(read(run[i]!)!.value)}
                  x2={T(f.t)}
                  y2={Y(v)}
                  stroke={out ? COLOR.rosin : COLOR.ink}
                  strokeWidth={out ? 2.2 : 1.7}
                  strokeLinecap="round"
                />
              );
            })}
          </g>
        );
      })}
      {gaps.map((g) => (
        <rect key={g.from} x={T(g.from)} width={T(g.to) - T(g.from)} y={top} height={TRACK} fill={`url(#${hatch})`} />
      ))}
      <text x={left - 12} y={top + 10} fontSize={12.5} textAnchor="end" fill={COLOR.soft}>
        {names[0]}
      </text>
      <text x={left - 12} y={top + TRACK} fontSize={12.5} textAnchor="end" fill={COLOR.soft}>
        {names[1]}
      </text>
    </g>
  );
}
