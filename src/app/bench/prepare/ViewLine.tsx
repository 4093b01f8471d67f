import type { PartFitness, PlayerPart } from '../../../core/take/playerFitness';
import type { QuantityFitness } from '../../../core/take/viewFitness';
import type { FitnessOfView } from '../../../vision/workers/solve.worker';
import { HatchPattern, useHatch } from '../../drawings/signs';
import { COLOR } from '../../drawings/tokens';

const WORDS: Record<QuantityFitness['quantity'], string> = { skew_deg: 'bow angle', contact_fraction: 'contact point', inclination_deg: 'string level' };
const PARTS: Record<PlayerPart, string> = { arm: 'bow arm', hand: 'bow hand', trunk: 'trunk and head', feet: 'feet' };
const GRADES = { fit: 'clear', doubtful: 'rough', unfit: 'not to be judged' } as const;

const LIST = new Intl.ListFormat('en-GB');

const likely = (q: QuantityFitness): string => {
  if (!Number.isFinite(q.u)) return '';
  return q.quantity === 'contact_fraction' ? `±${Math.max(1, Math.round(100 * q.u))} % of the strip` : `±${q.u.toFixed(q.u < 10 ? 1 : 0)}°`;
};

/** What this view can judge, told before anything is measured, and where the camera would do better. */
export function ViewLine({ fitness }: { fitness: FitnessOfView }) {
  return (
    <section aria-label="What this view can judge" className="mt-3 border-t border-rule pt-2" data-testid="view-line">
      <h3 className="text-label text-soft">This view shows</h3>
      <ul className="mt-1 flex flex-wrap gap-x-8 gap-y-1">
        {fitness.quantities.map((q) => (
          <li key={q.quantity} className="flex items-center gap-2">
            <Grade grade={q.grade} />
            <span>
              <b>{WORDS[q.quantity]}</b> {GRADES[q.grade]}
              <span className="text-soft">
                {' '}
                {likely(q)}
                {q.weakOn.length > 0 && `, less on ${q.weakOn.join(' and ')}`}
              </span>
            </span>
          </li>
        ))}
      </ul>
      {fitness.player.length > 0 && (
        <ul className="mt-1 flex flex-wrap gap-x-8 gap-y-1" aria-label="Of the player">
          {fitness.player.map((p) => (
            <PlayerLine key={p.part} part={p} />
          ))}
        </ul>
      )}
      {fitness.better && (
        <p className="mt-1 text-soft">
          For {LIST.format(fitness.better.gains.map((quantity) => WORDS[quantity]))}, film next time {fitness.better.words}.
        </p>
      )}
    </section>
  );
}

function PlayerLine({ part: { part, grade, why } }: { part: PartFitness }) {
  return (
    <li className="flex items-center gap-2">
      <Grade grade={grade} />
      <span>
        <b>{PARTS[part]}</b> {GRADES[grade]}
        {why && <span className="text-soft">, {why}</span>}
      </span>
    </li>
  );
}

/** A bar as wide as the doubt: thin is sure, thick is rough, hatched cannot be judged. */
function Grade({ grade }: { grade: QuantityFitness['grade'] }) {
  const hatch = useHatch();
  const half = grade === 'fit' ? 3 : 8;
  return (
    <svg width={30} height={16} viewBox="0 0 30 16" aria-hidden>
      <defs>
        <HatchPattern id={hatch} />
      </defs>
      <rect x={1} y={1} width={28} height={14} rx={3} fill={COLOR.lit} stroke={COLOR.edge} strokeOpacity={0.5} />
      {grade === 'unfit' ? (
        <rect x={1} y={1} width={28} height={14} rx={3} fill={`url(#${hatch})`} />
      ) : (
        <>
          <rect x={15 - half} y={3} width={2 * half} height={10} rx={Math.min(half, 5)} fill={COLOR.ink} opacity={0.3} />
          <circle cx={15} cy={8} r={3.4} fill={COLOR.lit} stroke={COLOR.ink} strokeWidth={1.8} />
        </>
      )}
    </svg>
  );
}
