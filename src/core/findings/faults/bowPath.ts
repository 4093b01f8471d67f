import type { Stroke } from '../../strokes/stroke';
import { type FrameFault, HELD_UP, type StrokeFault, where } from './fault';

const skew = {
  kind: 'frame',
  quantity: 'skew_deg',
  unit: 'deg',
  band: (bands) => bands.skew,
  scale: { range: [-20, 20], ends: ['to player', 'square', 'to scroll'] },
} as const satisfies Partial<FrameFault>;

/** The lower third has a row of its own. */
const PAST_THE_FROG = [1 / 3, 1] as const;

export const tipToScroll: FrameFault = {
  ...skew,
  id: 'tip-to-scroll',
  title: (third) => `${where(third)}the tip turns to the scroll.`,
  side: 'above',
  within: PAST_THE_FROG,
  exercises: ['Tube glide', 'Tip check'],
};

export const tipToPlayer: FrameFault = {
  ...skew,
  id: 'tip-to-player',
  title: (third) => `${where(third)}the tip turns to the player.`,
  side: 'below',
  within: PAST_THE_FROG,
  exercises: ['Two halves', 'Three stations'],
};

/** Told only where the rest of the bow is square and its path no curve: else it is one fault, not two. */
export const crookedAtFrog: FrameFault = {
  ...skew,
  id: 'crooked-at-frog',
  title: () => 'Near the frog, the bow is not square.',
  side: 'either',
  within: [0, 1 / 3],
  unless: ['tip-to-scroll', 'tip-to-player', 'bow-arcs'],
  exercises: ['Two halves', 'Three stations'],
};

/** A curve bends in both halves of the bow: in neither by less than this share of the other (ours). */
const STEADY = 0.35;

/** Whether the angle grows on from frog to middle as from middle to tip; strokes in a part of the bow tell nothing against it. */
function growsSteadily({ thirds }: Stroke): boolean {
  const [frog, middle, tip] = [thirds.frog.skew_deg, thirds.middle.skew_deg, thirds.tip.skew_deg];
  if (!frog || !middle || !tip) return true;
  const lower = middle.value - frog.value;
  const upper = tip.value - middle.value;
  return lower * upper > 0 && Math.min(Math.abs(lower), Math.abs(upper)) >= STEADY * Math.max(Math.abs(lower), Math.abs(upper));
}

/** The angle grows steadily along the bow, its path curved round a fixed point: the shape of the path, whether or not an end of the bow leaves its band. */
export const bowArcs: StrokeFault = {
  id: 'bow-arcs',
  kind: 'stroke',
  quantity: 'arc_index',
  restsOn: 'skew_deg',
  unit: 'deg',
  title: () => 'The bow travels in a curve.',
  band: (bands) => bands.arc,
  side: 'either',
  scale: { range: [-30, 30], ends: ['tip to player', 'straight', 'tip to scroll'] },
  measure: (stroke) => stroke.arcIndex,
  shows: growsSteadily,
  exercises: ['Tube glide', 'Three stations'],
};

/** The upper arm swings where the elbow should open: past the middle the forearm makes the way. */
export const strokeFromShoulder: StrokeFault = {
  id: 'stroke-from-shoulder',
  kind: 'stroke',
  quantity: 'forearm_share',
  unit: 'share',
  title: () => 'Past the middle, the upper arm swings where the elbow should open.',
  band: (bands) => bands.forearmShare,
  side: 'below',
  families: HELD_UP,
  scale: { range: [0, 1.5], ends: ['upper arm', '', 'forearm'] },
  measure: (stroke) => stroke.forearmShare,
  exercises: ['Tube glide', 'Back to the wall'],
};
