import { median, relativeSpread } from '../../statistics';
import type { Stroke } from '../../strokes/stroke';
import type { TakeFault } from './fault';

/** Strokes must be so alike in time for their shares of bow to be compared: a rhythm asks for unlike ones (spread over mean, ours). */
const ALIKE = 0.15;
/** A bow takes its time when it lasts so long: short notes take little bow (seconds, ours). */
const LONG = 0.9;
/** Fewer strokes say nothing of a habit. */
const LEAST = 4;
/** A last bow shorter than this share of the others was cut off by the film's end (ours). */
const CUT = 0.8;

const shareOf = (s: Stroke) => Math.abs(s.toPosition - s.fromPosition);

/** Strokes that lie whole in the film. */
function whole(strokes: readonly Stroke[]): readonly Stroke[] {
  const usual = median(strokes.map((s) => s.to - s.from));
  return strokes.filter((s, i) => !((i === 0 && s.from < 0.1) || i === strokes.length - 1) || s.to - s.from >= CUT * usual);
}

const shown = (strokes: readonly Stroke[], all: readonly Stroke[]) => strokes.map((s) => ({ from: s.from, to: s.to, stroke: all.indexOf(s) }));

export const unevenShares: TakeFault = {
  id: 'uneven-shares',
  kind: 'take',
  quantity: 'shares_evenness',
  over: 'bows',
  unit: 'share',
  title: () => 'Notes of one length take unlike shares of the bow.',
  band: (bands) => bands.sharesEvenness,
  side: 'above',
  scale: { range: [0, 0.6], ends: ['alike', '', 'unlike'] },
  measure(_, all) {
    const strokes = whole(all);
    if (strokes.length < LEAST || relativeSpread(strokes.map((s) => s.to - s.from)) > ALIKE) return undefined;
    return { value: relativeSpread(strokes.map(shareOf)), u: 0.02, eligible: strokes.length, stretches: shown(strokes, all), evidence: [] };
  },
  exercises: ['Long-short-short', 'Equal shares'],
};

export const smallPartOfBow: TakeFault = {
  id: 'small-part-of-bow',
  kind: 'take',
  quantity: 'bow_share',
  over: 'bows',
  unit: 'share',
  title: () => 'Long notes use little of the bow.',
  band: (bands) => bands.bowShare,
  side: 'below',
  scale: { range: [0, 1], ends: ['little', '', 'whole bow'] },
  measure(_, all) {
    const strokes = whole(all).filter((s) => s.to - s.from >= LONG);
    if (strokes.length < LEAST) return undefined;
    return { value: median(strokes.map(shareOf)), u: 0.03, eligible: strokes.length, stretches: shown(strokes, all), evidence: [] };
  },
  exercises: ['Long open bows', 'Two halves'],
};
