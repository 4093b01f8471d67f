import { HAND_ACROSS } from '../../core/body/handMaps';
import { bowAsSeen, handMiddle } from '../../core/body/handView';
import type { PartSquare } from '../../core/body/partSquare';
import type { BodySighting } from '../../core/body/sighting';
import { GROWN, likelyStature } from '../../core/body/stature';
import { bowInSpace } from '../../core/bow/bowInSpace';
import { project } from '../../core/geometry/camera';
import type { Vec2, Vec3 } from '../../core/geometry/vec3';
import { bowContextOf } from '../../core/measures/measureFrames';
import type { TakeMeasures } from '../../core/take/analyse';
import { type Cut, PLAIN } from './cutOrder';
import { mirrorSquare } from './partFinder';

/** Where the bow hand must be in a picture, from the bow. Pixels. */
export interface BowHandPlace extends PartSquare {
  /** Unit vector of the bow in the picture, frog to tip. */
  readonly bow: Vec2;
  readonly frog: Vec2;
  /** What the hand network of our own looks at. */
  readonly square: HandSquare;
}

/** A square about the bow hand, upright in the picture (px), and how the bow lies in it. */
export interface HandSquare extends PartSquare {
  /** Size of the player against a grown one. */
  readonly size: number;
  /** The bow's axes along the hair and out of the top, as seen along the line of sight (see bowAsSeen). */
  readonly bow: readonly number[];
  /** Whether the picture shows a left-handed player, so that it is this picture's mirror image that the rest holds for. */
  readonly mirrored: boolean;
}

/** Side of the square that a hand is looked for in, mm of a full-size bow (arm and hand recipe). */
const HAND_SIDE = 300;
const FULL_HAIR = 650;

export const BOW_HAND_CUTS: readonly Cut[] = [PLAIN, { ...PLAIN, share: 0.72 }, { ...PLAIN, mirror: true }, { ...PLAIN, turn: Math.PI / 5 }, { ...PLAIN, turn: -Math.PI / 5 }];
/** Index and little knuckle lie along the stick at least so much, as a share of their distance: networks swap thumb and little finger (arm and hand recipe). */
const ALONG_STICK = 0.3;
/** Fingertips lie this near the frog, as a share of the square's side (ours). */
const TIPS_NEAR = 0.33;

/** Whether points found are a hand that can hold the bow there. */
export function holdsBow(points: readonly Vec2[], place: BowHandPlace): boolean {
  const [index, little] = [points[5]!, points[17]!];
  const across: Vec2 = [index[0] - little[0], index[1] - little[1]];
  if (across[0] * place.bow[0] + across[1] * place.bow[1] < ALONG_STICK * Math.hypot(...across)) return false;
  const tips = [8, 12, 16].map((i) => points[i]!);
  const middle: Vec2 = [tips.reduce((s, p) => s + p[0], 0) / 3, tips.reduce((s, p) => s + p[1], 0) / 3];
  return Math.hypot(middle[0] - place.frog[0], middle[1] - place.frog[1]) < TIPS_NEAR * place.side;
}

/** Where the bow hand is in each frame in which the bow is known, by the frame's place in the film. */
export function bowHandPlaces(take: Pick<TakeMeasures, 'family' | 'dimensions' | 'solution' | 'tracked' | 'bows'>): Map<number, BowHandPlace> {
  const { camera } = take.solution;
  const context = bowContextOf(take);
  const scale = Math.min(1, take.dimensions.hair / FULL_HAIR);
  const size = likelyStature(take.dimensions).value / GROWN;
  const places = new Map<number, BowHandPlace>();
  take.tracked.forEach(({ pose, index }, i) => {
    const bow = take.bows[i];
    if (!pose || !bow) return;
    const { frog, tip, axes } = bowInSpace(context, pose, bow);
    const [hand, grown] = [scale, size].map((s) => handMiddle(frog, axes, s)) as [Vec3, Vec3];
    const [centre, frogSeen, tipSeen, middle] = [hand, frog, tip, grown].map((p) => project(camera, p));
    if (!centre || !frogSeen || !tipSeen || !middle) return;
    const d: Vec2 = [tipSeen[0] - frogSeen[0], tipSeen[1] - frogSeen[1]];
    const n = Math.hypot(...d) || 1;
    places.set(index, {
      centre,
      frog: frogSeen,
      side: (HAND_SIDE * scale * camera.focal) / hand[2],
      bow: [d[0] / n, d[1] / n],
      square: { centre: middle, side: (HAND_ACROSS * size * camera.focal) / Math.hypot(...grown), size, bow: bowAsSeen(grown, axes).flat(), mirrored: false },
    });
  });
  return places;
}

/** Where a forearm goes on into the middle of its hand, as a share of its length (ours). */
const BEYOND_WRIST = 0.25;
/** A hand that is nearer to where the frog was taken to be has been looked for there (share of the square's side). */
const ELSEWHERE = 0.25;

/** A hand further from the bow's line than this holds something else (share of the square's side). */
const BESIDE = 0.6;

/**
 * The place moved along the bow to where the body network has the hand that is nearest to its line; undefined where
 * a hand is in the place already, or neither is near. A left-handed player's bow hand is the left.
 */
export function placeByArm(place: BowHandPlace, joints: NonNullable<BodySighting['joints']>): BowHandPlace | undefined {
  const { bow, centre, frog, side } = place;
  const hands = (['right', 'left'] as const).map((which) => {
    const [wrist, elbow] = [joints[`wrist.${which}`].point, joints[`elbow.${which}`].point];
    const d = [0, 1].map((i) => wrist[i]! + BEYOND_WRIST * (wrist[i]! - elbow[i]!) - centre[i]!);
    return { along: d[0]! * bow[0] + d[1]! * bow[1], aside: Math.abs(d[1]! * bow[0] - d[0]! * bow[1]) };
  });
  const near = hands.filter((h) => h.aside < BESIDE * side).sort((a, b) => a.aside - b.aside);
  // A hand that is in its place leaves the other no bow to hold.
  if (!near[0] || near.some((h) => Math.abs(h.along) < ELSEWHERE * side)) return undefined;
  const { along } = near[0];
  const moved = (p: Vec2): Vec2 => [p[0] + along * bow[0], p[1] + along * bow[1]];
  return { ...place, centre: moved(centre), frog: moved(frog), square: { ...place.square, centre: moved(place.square.centre) } };
}

/** The place as it stands in the mirrored picture. */
export const mirrorBowHand = (place: BowHandPlace, width: number): BowHandPlace => ({
  ...mirrorSquare(place, width),
  frog: [width - place.frog[0], place.frog[1]],
  bow: [-place.bow[0], place.bow[1]],
  square: { ...mirrorSquare(place.square, width), mirrored: true },
});
