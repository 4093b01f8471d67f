import { median } from '../../statistics';
import { thirdOf } from '../../strokes/stroke';
import { type FrameFault, type StrokeFault, type TakeFault, where } from './fault';

const contact = {
  kind: 'frame',
  quantity: 'contact_fraction',
  unit: 'strip',
  band: (bands) => bands.contactFraction,
  scale: { range: [0, 1.2], ends: ['bridge', '', 'fingerboard'] },
} as const satisfies Partial<FrameFault>;

export const onFingerboard: FrameFault = {
  ...contact,
  id: 'on-fingerboard',
  title: (third) => `${where(third)}too near the fingerboard.`,
  side: 'above',
  exercises: ['Far-side bowing', 'Long open bows'],
};

export const atBridge: FrameFault = {
  ...contact,
  id: 'at-bridge',
  title: (third) => `${where(third)}too near the bridge.`,
  side: 'below',
  // Behind the bridge is an exercise on purpose.
  spared: (value) => value < 0,
  exercises: ['Long open bows', 'Three stations'],
};

export const contactDrifts: StrokeFault = {
  id: 'contact-drifts',
  kind: 'stroke',
  quantity: 'contact_range',
  restsOn: 'contact_fraction',
  unit: 'strip',
  title: () => 'Within a stroke, the contact point wanders.',
  band: (bands) => bands.contactRange,
  side: 'above',
  scale: { range: [0, 0.6], ends: ['on one place', '', 'wanders'] },
  measure: (stroke) => stroke.contactRange,
  exercises: ['Three stations', 'Gate'],
};

/** Half of a contact point's doubt moves both sides of a bow change alike and drops out (ours). */
const SHARED = 0.5;

/** How far the contact point jumps where the bow turns: the third of the turn, before it against after it. */
export const contactJumps: TakeFault = {
  id: 'contact-jumps',
  kind: 'take',
  quantity: 'contact_jump',
  over: 'bow changes',
  unit: 'strip',
  title: () => 'At the bow changes, the contact point jumps.',
  band: (bands) => bands.contactJump,
  side: 'above',
  scale: { range: [0, 0.6], ends: ['on one place', '', 'jumps'] },
  measure(_, strokes) {
    const turns = strokes.slice(1).flatMap((after, i) => {
      const before = strokes[i]!;
      const third = thirdOf(after.fromPosition);
      const [a, b] = [before.thirds[third].contact_fraction, after.thirds[third].contact_fraction];
      return a && b && before.direction !== after.direction ? [{ before, after, jump: Math.abs(b.value - a.value), u: SHARED * Math.max(a.u, b.u) }] : [];
    });
    if (turns.length < 3) return undefined;
    return {
      value: median(turns.map((t) => t.jump)),
      u: median(turns.map((t) => t.u)),
      eligible: turns.length,
      stretches: turns.map((t) => ({ from: t.before.to - 0.1, to: t.after.from + 0.1, stroke: strokes.indexOf(t.after) })),
      evidence: [],
    };
  },
  exercises: ['Three stations', 'Long open bows'],
};
