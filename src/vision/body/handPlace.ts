import { bowInSpace } from '../../core/bow/bowInSpace';
import { project } from '../../core/geometry/camera';
import { addScaled, type Vec2, type Vec3 } from '../../core/geometry/vec3';
import { bowContextOf } from '../../core/measures/measureFrames';
import type { TakeMeasures } from '../../core/take/analyse';

/** Where the bow hand must be in a picture, from the bow. Pixels. */
export interface HandPlace {
  /** Middle of the hand. */
  readonly centre: Vec2;
  /** Side of a square that holds it. */
  readonly side: number;
  /** Unit vector of the bow in the picture, frog to tip. */
  readonly bow: Vec2;
  readonly frog: Vec2;
}

/** Middle of the hand from the frog in the bow's axes: along the hair, toward the player, out of the top; and the side of its square (mm of a full-size bow; arm and hand recipe). */
const HAND = { at: [-8, 60, 30], side: 300 } as const;
const FULL_HAIR = 650;

/** Where the bow hand is in each frame in which the bow is known, by the frame's place in the film. */
export function handPlaces(take: Pick<TakeMeasures, 'family' | 'dimensions' | 'solution' | 'tracked' | 'bows'>): Map<number, HandPlace> {
  const { camera } = take.solution;
  const context = bowContextOf(take);
  const scale = Math.min(1, take.dimensions.hair / FULL_HAIR);
  const places = new Map<number, HandPlace>();
  take.tracked.forEach(({ pose, index }, i) => {
    const bow = take.bows[i];
    if (!pose || !bow) return;
    const { frog, tip, axes } = bowInSpace(context, pose, bow);
    const hand = axes.reduce<Vec3>((p, axis, j) => addScaled(p, axis, HAND.at[j]! * scale), frog);
    const [centre, frogSeen, tipSeen] = [hand, frog, tip].map((p) => project(camera, p));
    if (!centre || !frogSeen || !tipSeen) return;
    const d: Vec2 = [tipSeen[0] - frogSeen[0], tipSeen[1] - frogSeen[1]];
    const n = Math.hypot(...d) || 1;
    places.set(index, { centre, frog: frogSeen, side: (HAND.side * scale * camera.focal) / hand[2], bow: [d[0] / n, d[1] / n] });
  });
  return places;
}

/** The place as it stands in the mirrored picture. */
export const mirrorPlace = (place: HandPlace, width: number): HandPlace => ({
  ...place,
  centre: [width - place.centre[0], place.centre[1]],
  frog: [width - place.frog[0], place.frog[1]],
  bow: [-place.bow[0], place.bow[1]],
});
