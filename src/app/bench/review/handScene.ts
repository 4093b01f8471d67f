import { STICK_OVER_HAIR } from '../../../core/body/fitHand';
import { bowInSpace } from '../../../core/bow/bowInSpace';
import { project } from '../../../core/geometry/camera';
import { addScaled } from '../../../core/geometry/vec3';
import { bowContextOf } from '../../../core/measures/measureFrames';
import type { FrameMeasures } from '../../../core/measures/measures';
import type { Stroke } from '../../../core/strokes/stroke';
import type { TakeMeasures } from '../../../core/take/analyse';
import { DIGITS, type Digit, type HandScene } from '../../drawings/HandPlate';

/** Beyond this from a frame in which the hand was laid nothing is drawn (seconds). */
const REACH = 0.3;
const JOINT = { thumb: 'thumb_ip_deg', index: 'index_pip_deg', middle: 'middle_pip_deg', ring: 'ring_pip_deg', little: 'little_pip_deg' } as const;

/** The bend that is spoken of, degrees; undefined where it cannot be told. */
export const bendOf = (frame: FrameMeasures, digit: Digit): number | undefined => frame.values[JOINT[digit]]?.value;

/** The bow hand as its plate draws it in one frame; undefined where it was not measured. */
export function handSceneOf(take: TakeMeasures, index: number): HandScene | undefined {
  const frame = take.frames[index];
  const hands = take.hands ?? [];
  if (!frame || hands.length === 0) return undefined;
  const near = hands.reduce((a, b) => (Math.abs(b.t - frame.t) < Math.abs(a.t - frame.t) ? b : a));
  if (Math.abs(near.t - frame.t) > REACH) return undefined;
  const told = new Set(DIGITS.filter((digit) => bendOf(frame, digit) !== undefined));
  return told.size > 0 ? { points: near.points, told, stick: STICK_OVER_HAIR * Math.min(1, take.dimensions.hair / 650) } : undefined;
}

/** A square of the film about the bow hand, px of the film as it was measured. */
export interface HandSquare {
  readonly index: number;
  readonly place: 'frog' | 'middle' | 'tip';
  readonly x: number;
  readonly y: number;
  readonly side: number;
}

/** Half the side of the square, mm. */
const HALF = 125;
const PLACES = [
  ['frog', 0.1],
  ['middle', 0.5],
  ['tip', 0.9],
] as const;
/** The bow must come so near a place for it to be shown (shares of the hair). */
const NEAR = 0.17;

/** Where the hand is in the film at frog, middle and tip: in the stroke at hand where it reaches there, else in any. */
export function handSquares(take: TakeMeasures, stroke: Stroke | undefined): HandSquare[] {
  const context = bowContextOf(take);
  const { camera } = take.solution;
  return PLACES.flatMap(([place, at]): HandSquare[] => {
    const off = (i: number) => Math.abs((take.frames[i]!.values.bow_position?.value ?? 9) - at);
    const best = (list: readonly number[]) => list.reduce<number | undefined>((b, i) => (off(i) < (b === undefined ? NEAR : off(b)) ? i : b), undefined);
    const all = take.frames.map((_, i) => i).filter((i) => take.bows[i] && take.tracked[i]?.pose);
    const index = (stroke && best(all.filter((i) => i >= stroke.first && i <= stroke.last))) ?? best(all);
    if (index === undefined) return [];
    const { frog, axes } = bowInSpace(context, take.tracked[index]!.pose!, take.bows[index]!);
    // The hand lies over and behind the frog.
    const middle = addScaled(addScaled(frog, axes[1], 35), axes[2], 30);
    const seen = project(camera, middle);
    const side = (2 * HALF * camera.focal) / middle[2];
    return seen ? [{ index, place, x: seen[0] - side / 2, y: seen[1] - side / 2, side }] : [];
  });
}
