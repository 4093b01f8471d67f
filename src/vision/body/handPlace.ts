import { hairLine } from '../../core/bow/bowState';
import { project } from '../../core/geometry/camera';
import { toOuter } from '../../core/geometry/pose';
import { rotate } from '../../core/geometry/rotation';
import { addScaled, cross, dot, normalize, subtract, type Vec2, type Vec3 } from '../../core/geometry/vec3';
import { sideSign } from '../../core/instrument/family';
import { stringLines } from '../../core/instrument/strings';
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
  const { camera, model } = take.solution;
  const side = sideSign(take.family);
  const strings = stringLines(model, take.family);
  const scale = Math.min(1, take.dimensions.hair / FULL_HAIR);
  const places = new Map<number, HandPlace>();
  take.tracked.forEach(({ pose, index }, i) => {
    const bow = take.bows[i];
    if (!pose || !bow) return;
    const line = hairLine(bow.state, strings[bow.string]!, take.dimensions.hair, side);
    const [frog, tip] = [toOuter(pose, line.frog), toOuter(pose, line.tip)];
    const x = normalize(subtract(tip, frog));
    const top = rotate(pose.rotation, [0, 0, 1]);
    const z = normalize(addScaled(top, x, -dot(top, x)));
    // The player sits on the tailpiece's side of the bow whichever way it points.
    const y = cross(z, x).map((v) => v * side) as unknown as Vec3;
    const hand = ([x, y, z] as const).reduce<Vec3>((p, axis, j) => addScaled(p, axis, HAND.at[j]! * scale), frog);
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
