import type { SoundEvents } from '../../crossings/soundEvents';
import { mean } from '../../statistics';
import type { Stroke } from '../../strokes/stroke';
import type { CauseId } from '../finding';
import { COUNTED_BOWS, HELD_UP, type StrokeFault, type TakeFault, type TakeNumber } from './fault';

/** A crossing is looked at from so long before to so long after it (seconds, ours). */
const ABOUT = 0.2;
/** A second string is counted when it is this sure (ours). */
const SURE = 0.3;

/** Steps of one clip differ less than their stated doubt, which holds for each height alone (ours, measured on clips of two renderers). */
const STEPS_AGREE = 0.6;

/** The stroke that begins at a crossing, or the one under way. */
const strokeAt = (strokes: readonly Stroke[], t: number) => strokes.reduce((best, s, i) => (Math.abs(s.from - t) < Math.abs(strokes[best]!.from - t) ? i : best), 0);

/** The arm's lag over the clip, in milliseconds, shown at every crossing. */
function lagOf({ lag, crossings }: SoundEvents, strokes: readonly Stroke[], cause: CauseId): TakeNumber | undefined {
  if (!lag || crossings.length === 0 || strokes.length === 0) return undefined;
  const value = 1000 * lag.value;
  const u = 1000 * lag.u;
  const when = value > 0 ? 'after' : 'before';
  return {
    value,
    u,
    eligible: crossings.length,
    stretches: crossings.map((c) => ({ from: c.tBow - ABOUT, to: c.tBow + ABOUT, stroke: strokeAt(strokes, c.tBow) })),
    cause,
    evidence: [{ quantity: 'elbow_lag_ms', value, u, says: `the upper arm changes level ${Math.abs(value).toFixed(0)} ms ${when} the bow` }],
  };
}

const timing = {
  kind: 'take',
  quantity: 'elbow_lag_ms',
  over: 'crossings',
  unit: 'ms',
  families: HELD_UP,
  band: (b) => b.crossingLag,
  scale: { range: [-300, 300], ends: ['arm early', 'together', 'arm late'] },
} as const satisfies Partial<TakeFault>;

export const crossingLate: TakeFault = {
  ...timing,
  id: 'crossing-late',
  title: () => 'At the crossings, the arm comes late.',
  side: 'above',
  measure: (events, strokes) => lagOf(events, strokes, 'arm-late'),
  exercises: ['Slow crossings', 'Level stops'],
};
export const crossingEarly: TakeFault = {
  ...timing,
  id: 'crossing-early',
  title: () => 'At the crossings, the arm comes early.',
  side: 'below',
  measure: (events, strokes) => lagOf(events, strokes, 'arm-early'),
  exercises: ['Slow crossings', 'Level stops'],
};

/** The least step of the arm between two neighbouring strings, as a share of the step the bow makes. */
export const levelsNotDistinct: TakeFault = {
  id: 'levels-not-distinct',
  kind: 'take',
  quantity: 'arm_level_share',
  over: 'crossings',
  unit: 'share',
  families: HELD_UP,
  title: () => 'The arm hardly changes its level from string to string.',
  band: (b) => b.levelShare,
  side: 'below',
  scale: { range: [-0.2, 1.6], ends: ['one level', 'with the bow', ''] },
  measure({ levels, crossings }, strokes) {
    const shares = levels.steps.flatMap((s) => (s.armStep && s.bowStep > 4 ? [{ ...s, share: s.armStep.value / s.bowStep, u: s.armStep.u / s.bowStep }] : []));
    if (shares.length === 0 || strokes.length === 0) return undefined;
    // Each step is small against its doubt; all together they say whether the arm takes part.
    const value = mean(shares.map((s) => s.share));
    const u = (STEPS_AGREE * mean(shares.map((s) => s.u))) / Math.sqrt(shares.length);
    return {
      value,
      u,
      eligible: crossings.length,
      stretches: crossings.map((c) => ({ from: c.tBow - ABOUT, to: c.tBow + ABOUT, stroke: strokeAt(strokes, c.tBow) })),
      cause: 'wrist-only-crossing',
      evidence: shares.map((s) => ({
        quantity: 'upper_arm_elevation_deg',
        value: s.armStep!.value,
        u: s.armStep!.u,
        says: `from ${s.higher} to ${s.lower} the upper arm rises ${s.armStep!.value.toFixed(0)}\u00b0, the bow ${s.bowStep.toFixed(0)}\u00b0`,
      })),
    };
  },
  exercises: ['Level stops', 'Slow crossings'],
};

/** Share of the strokes in which a neighbouring string is heard outside of the crossings. */
export const neighbourTouched: TakeFault = {
  ...COUNTED_BOWS,
  id: 'neighbour-touched',
  quantity: 'stray_share',
  title: () => 'A neighbouring string sounds too.',
  band: (b) => b.strayShare,
  measure({ strays, notes }, strokes) {
    if (notes.length === 0 || strokes.length === 0) return undefined;
    const inside = strays.filter((s) => !s.inCrossing && s.confidence >= SURE);
    const touched = new Map<number, (typeof inside)[number]>();
    for (const stray of inside) {
      const stroke = strokes.findIndex((s) => stray.from < s.to && stray.to > s.from);
      if (stroke >= 0 && !touched.has(stroke)) touched.set(stroke, stray);
    }
    if (touched.size === 0) return undefined;
    const high = inside.filter((s) => s.why === 'too-high').length;
    const mostly = high >= inside.length * 0.7 ? 'high' : high <= inside.length * 0.3 ? 'low' : undefined;
    return {
      value: touched.size / strokes.length,
      u: 0.5 / strokes.length,
      eligible: strokes.length,
      stretches: [...touched].map(([stroke, s]) => ({ from: s.from, to: s.to, stroke })),
      ...(mostly ? { cause: 'arm-level-wrong' } : {}),
      evidence: [
        {
          quantity: 'strays',
          value: inside.length,
          u: 0,
          says: `${inside.length} times another string was heard${mostly ? `, ${high >= inside.length * 0.7 ? 'the lower' : 'the higher'} neighbour in most of them: the arm is too ${mostly} for the string` : ''}`,
        },
      ],
    };
  },
  exercises: ['Level stops', 'Halt and bracket'],
};

/** The level is left toward a neighbour near frog or tip; crossings themselves do not count. */
export const levelLost: StrokeFault = {
  id: 'level-lost',
  kind: 'stroke',
  quantity: 'level_range_deg',
  restsOn: 'inclination_deg',
  unit: 'deg',
  title: () => "Toward the bow's end, the string's level is lost.",
  band: (b) => b.levelKept,
  side: 'above',
  scale: { range: [0, 10], ends: ['kept', '', 'lost'] },
  measure: (stroke) => stroke.levelRange,
  exercises: ['Level stops', 'Three stations'],
};
