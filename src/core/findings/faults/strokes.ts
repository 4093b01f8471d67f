import type { FrameMeasures, Measured } from '../../measures/measures';
import { beyond } from '../../rubric/band';
import { mean, median, relativeSpread } from '../../statistics';
import { type StrokeFlow, strokeFlows } from '../../strokes/flow';
import type { Stroke } from '../../strokes/stroke';
import { COUNTED_BOWS, type TakeFault, type TakeNumber } from './fault';

/** Strokes must be so alike in time for their shares of bow to be compared: a rhythm asks for unlike ones (spread over mean, ours). */
const ALIKE = 0.15;
/** A bow takes its time when it lasts so long: short notes take little bow (seconds, ours). */
const LONG = 0.9;
/** Fewer strokes say nothing of a habit. */
const LEAST = 4;
/** A last bow shorter than this share of the others was cut off by the film's end (ours). */
const CUT = 0.8;
/** The bow stands between two strokes when it rests for so long (seconds, ours). */
const STANDS = 0.3;
/** A stroke is told to begin and end where it has left its turning point by this share of the hair. */
const TOLD = 0.004;
/** So near its end the bow has no way left (shares of the hair, ours). */
const NO_WAY = 0.07;
/** An even stroke makes a fifth of its way in the last third of its time; a squeezed one less than this (ours). */
const SQUEEZED = 0.1;
/** The end of a stroke (share of its time, ours). */
const LAST = 0.15;
/** Below this share of its usual speed a stroke has collapsed (ours). */
const COLLAPSED = 0.35;

const shareOf = (s: Stroke) => Math.abs(s.toPosition - s.fromPosition);

/** Strokes that lie whole in the film. */
function whole(strokes: readonly Stroke[]): readonly Stroke[] {
  const usual = median(strokes.map((s) => s.to - s.from));
  return strokes.filter((s, i) => !((i === 0 && s.from < 0.1) || i === strokes.length - 1) || s.to - s.from >= CUT * usual);
}

const shown = (strokes: readonly Stroke[], all: readonly Stroke[]) => strokes.map((s) => ({ from: s.from, to: s.to, stroke: all.indexOf(s) }));

/** The share of those that could show it which do; undefined with too few of them. */
function countOf(showing: readonly Stroke[], could: number, all: readonly Stroke[]): TakeNumber | undefined {
  if (could < LEAST || showing.length === 0) return undefined;
  return { value: showing.length / could, u: 0.5 / could, eligible: could, stretches: shown(showing, all), evidence: [] };
}

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

/** Strokes with how each goes on. */
const flowing = (strokes: readonly Stroke[], frames: readonly FrameMeasures[]): readonly { stroke: Stroke; flow: StrokeFlow }[] =>
  strokeFlows(frames, strokes).map((flow, i) => ({ stroke: strokes[i]!, flow }));

const ranOut = ({ stroke, flow }: { stroke: Stroke; flow: StrokeFlow }) =>
  (stroke.direction === 'down' ? stroke.toPosition > 1 - NO_WAY : stroke.toPosition < NO_WAY) && (flow.endShare ?? 1) < SQUEEZED;

/** The bow comes to its end before the note does, and what is left of the note is squeezed. */
export const runsOutOfBow: TakeFault = {
  ...COUNTED_BOWS,
  id: 'runs-out-of-bow',
  quantity: 'run_out_share',
  title: () => 'The bow runs out before the note ends.',
  band: (bands) => bands.runOutShare,
  measure(_, all, { frames }) {
    const long = flowing(whole(all), frames).filter(({ stroke, flow }) => stroke.to - stroke.from >= LONG && flow.endShare !== undefined);
    return countOf(
      long.filter(ranOut).map((o) => o.stroke),
      long.length,
      all,
    );
  },
  exercises: ['Long-short-short', 'Equal shares'],
};

export const speedCollapses: TakeFault = {
  ...COUNTED_BOWS,
  id: 'speed-collapses',
  quantity: 'collapse_share',
  title: () => 'On the way, the bow loses its speed.',
  band: (bands) => bands.collapseShare,
  measure(_, all, { frames }) {
    const told = flowing(whole(all), frames).filter(({ stroke, flow }) => stroke.to - stroke.from >= LONG && flow.slowest !== undefined);
    return countOf(
      told.filter((t) => t.flow.slowest! < COLLAPSED && !ranOut(t)).map((o) => o.stroke),
      told.length,
      all,
    );
  },
  exercises: ['Long open bows', 'Two halves'],
};

/** Seconds in which an even stroke has hardly left its turning point yet: a minimum-jerk way begins as ten times the cube of its time's share. */
const slowEnd = (s: Stroke) => (s.to - s.from) * Math.cbrt(TOLD / Math.max(TOLD, shareOf(s)) / 10);

/** A bow that stands before each new stroke; stops on purpose are a task of their own (`stops`), which leaves this out. */
export const stopsBetweenStrokes: TakeFault = {
  ...COUNTED_BOWS,
  id: 'stops-between-strokes',
  quantity: 'stop_share',
  over: 'bow changes',
  title: () => 'The bow stands still between the strokes.',
  band: (bands) => bands.stopShare,
  measure(_, all) {
    const before = all.slice(0, -1);
    return countOf(
      before.filter((s, i) => all[i + 1]!.from - s.to - slowEnd(s) - slowEnd(all[i + 1]!) > STANDS),
      before.length,
      all,
    );
  },
  exercises: ['Silent bowing', 'Long open bows'],
};

/** After a bow that strayed from the contact point the next one does not start back in place. */
export const slowRecovery: TakeFault = {
  ...COUNTED_BOWS,
  id: 'slow-recovery',
  quantity: 'lost_share',
  title: () => 'After a stray bow, the next one does not start back in place.',
  band: (bands) => bands.lostShare,
  measure(_, all, { frames, bands }) {
    const out = (m: Measured | undefined) => m !== undefined && beyond(bands.contactFraction, 'either', m.value) > m.u;
    const endOf = (s: Stroke): Measured | undefined => {
      const last = frames.slice(s.first, s.last + 1).flatMap((f) => (f.t > s.to - LAST * (s.to - s.from) && f.values.contact_fraction ? [f.values.contact_fraction] : []));
      return last.length > 0 ? { value: mean(last.map((m) => m.value)), u: mean(last.map((m) => m.u)) } : undefined;
    };
    const stray = all.slice(0, -1).filter((s) => out(endOf(s)));
    // Half way along the next bow it should have found its place.
    const lost = stray.filter((s) => out(all[all.indexOf(s) + 1]!.thirds.middle.contact_fraction));
    // With every bow out of place nothing was lost on the way.
    return stray.length >= LEAST && stray.length < all.length - 1 ? countOf(lost, stray.length, all) : undefined;
  },
  exercises: ['Halt and bracket', 'Three stations'],
};
