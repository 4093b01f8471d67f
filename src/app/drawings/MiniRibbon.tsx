import type { FrameMeasures } from '../../core/measures/measures';
import type { Stroke } from '../../core/strokes/stroke';
import type { Slice } from './StrokeRibbon';
import { COLOR, STRING_WEIGHT, signColor, signTint } from './tokens';

/** A take in a list: its sails and slices only. */
export function MiniRibbon({
  width,
  height,
  frames,
  strokes,
  slices,
}: {
  width: number;
  height: number;
  frames: readonly FrameMeasures[];
  strokes: readonly Stroke[];
  slices: readonly Slice[];
}) {
  const duration = frames[frames.length - 1]?.t ?? 1;
  const T = (t: number) => (t / duration) * width;
  const P = (p: number) => height - 2 - p * (height - 5);
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} role="img" aria-label={`${strokes.length} bows`}>
      <line x1={0} x2={width} y1={0.5} y2={0.5} stroke={COLOR.rule} />
      {strokes.map((stroke) => {
        const edge = frames.slice(stroke.first, stroke.last + 1).flatMap((f) => (f.values.bow_position ? [[f.t, f.values.bow_position.value] as const] : []));
        if (edge.length < 2) return null;
        const foot = P(Math.min(stroke.fromPosition, stroke.toPosition));
        const path = (part: typeof edge) =>
          `M${T(part[0]![0])} ${foot} L${part.map(([t, p]) => `${T(t).toFixed(1)} ${P(p).toFixed(1)}`).join(' L')} L${T(part[part.length - 1]![0])} ${foot} Z`;
        return (
          <g key={stroke.index}>
            <path d={path(edge)} fill={COLOR.spruce} stroke={COLOR.soft} strokeWidth={0.6} />
            {slices.map((s) => {
              const part = edge.filter(([t]) => t >= s.from && t <= s.to);
              return part.length < 2 ? null : <path key={`${s.from}-${s.to}`} d={path(part)} fill={signTint(s.sign)} stroke={signColor(s.sign)} strokeWidth={1} />;
            })}
            <path
              d={`M${edge.map(([t, p]) => `${T(t).toFixed(1)} ${P(p).toFixed(1)}`).join(' L')}`}
              fill="none"
              stroke={COLOR.ink}
              strokeWidth={0.5 + (STRING_WEIGHT[stroke.string ?? 'A'] ?? 1.7) * 0.6}
            />
          </g>
        );
      })}
      <line x1={0} x2={width} y1={height - 0.5} y2={height - 0.5} stroke={COLOR.soft} strokeWidth={0.8} />
    </svg>
  );
}
