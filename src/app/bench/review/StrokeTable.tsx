import type { Stroke } from '../../../core/strokes/stroke';
import { BowSign } from '../../drawings/signs';
import { degrees, ordinal } from '../../drawings/words';

/** One row a bow: direction and string, mean angle and contact, share of the bow. */
export function StrokeTable({ strokes, current, onSeek, width }: { strokes: readonly Stroke[]; current: number | undefined; onSeek: (t: number) => void; width: number }) {
  return (
    <div className="mt-2 max-h-[176px] overflow-y-auto">
      <table className="w-full text-label">
        <caption className="sr-only">Bows with mean angle and contact</caption>
        <thead>
          <tr className="text-soft">
            <th className="text-left font-normal">bow</th>
            <th className="text-right font-normal">angle</th>
            <th className="text-right font-normal">strip</th>
            {width > 180 && <th className="text-right font-normal">share</th>}
          </tr>
        </thead>
        <tbody>
          {strokes.map((s) => {
            const t = (s.from + s.to) / 2;
            return (
              <tr key={s.index} className={`cursor-pointer border-t border-rule ${s.index === current ? 'bg-fog-deep' : ''}`} onClick={() => onSeek(t)}>
                <td className="whitespace-nowrap">
                  <button type="button" className="inline-flex h-6 min-w-12 items-center gap-1" onClick={() => onSeek(t)} aria-label={`Go to the ${ordinal(s.index)} bow`}>
                    <svg width={10} height={10} viewBox="-6 -6 12 12" aria-hidden>
                      <BowSign x={0} y={0} direction={s.direction} />
                    </svg>
                    {s.index + 1} {s.string ?? '?'}
                  </button>
                </td>
                <td className="text-right">{s.skew_deg ? directed(s.skew_deg.value) : '?'}</td>
                <td className="text-right">{s.contact_fraction ? s.contact_fraction.value.toFixed(2) : '?'}</td>
                {width > 180 && <td className="text-right">{Math.round(Math.abs(s.toPosition - s.fromPosition) * 100)} %</td>}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** Degrees with the direction as a word's first letters: the table is narrow. */
const directed = (skew: number) => (Math.abs(skew) < 0.5 ? '0°' : `${degrees(skew)} ${skew > 0 ? 'scroll' : 'player'}`);
