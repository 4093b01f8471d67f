import { DEGREES, length, subtract } from '../geometry/vec3';
import type { FrameMeasures } from '../measures/measures';
import { nearestIndex } from '../nearestIndex';
import { mean } from '../statistics';
import type { Stroke } from '../strokes/stroke';
import { forearmShare } from './forearmShare';
import { levelHolds } from './levelHold';
import type { ArmPlace } from './measureArm';

/** The upper half: from about the middle to well past it (shares of the hair, ours). */
const STARTS = [0.42, 0.62] as const;
const REACHES = 0.75;
/** What posture and segment lengths add that the elbow angle's doubt does not know of (share, ours: measured on seeded clips). */
const MODEL = 0.12;

/** The middle of the bow, where a right angle is asked for (shares of the hair, ours). */
const MIDDLE = [0.42, 0.58] as const;

/** Strokes with how the arm keeps its level, the elbow's angle in the middle of the bow, and what elbow and upper arm each make of the hand's way in the upper half. */
export function strokesWithArm(strokes: readonly Stroke[], frames: readonly FrameMeasures[], arms: readonly ArmPlace[]): Stroke[] {
  const times = Float64Array.from(frames, (f) => f.t);
  const placed = arms.flatMap((arm) => {
    const { values } = frames[nearestIndex(times, arm.t)]!;
    return values.bow_position && values.elbow_angle_deg ? [{ arm, position: values.bow_position.value, u: values.elbow_angle_deg.u }] : [];
  });
  const holds = levelHolds(strokes, frames);
  return strokes.map((given, k) => {
    const hold = holds[k];
    const plain: Stroke = hold ? { ...given, levelHold: hold } : given;
    const middle = frames.slice(plain.first, plain.last + 1).flatMap(({ values }) => {
      const p = values.bow_position?.value;
      return p !== undefined && p >= MIDDLE[0] && p <= MIDDLE[1] && values.elbow_angle_deg ? [values.elbow_angle_deg] : [];
    });
    const stroke: Stroke = middle.length > 0 ? { ...plain, elbowAtMiddle: { value: mean(middle.map((m) => m.value)), u: mean(middle.map((m) => m.u)) } } : plain;
    const inside = placed.filter(({ arm }) => arm.t >= stroke.from - 0.05 && arm.t <= stroke.to + 0.05).sort((a, b) => a.position - b.position);
    const from = inside.find(({ position }) => position >= STARTS[0]);
    const to = inside.at(-1);
    if (!from || !to || from.position > STARTS[1] || to.position < REACHES) return stroke;
    const value = forearmShare(from.arm, to.arm);
    if (value === undefined) return stroke;
    // A wrongly measured opening of the elbow moves the hand by the forearm's length for each radian.
    const reach = ({ wrist, shoulder }: ArmPlace) => subtract(wrist, shoulder);
    const path = length(subtract(reach(to.arm), reach(from.arm)));
    const turn = Math.hypot(from.u, to.u) / Math.SQRT2 / DEGREES;
    return { ...stroke, forearmShare: { value, u: Math.hypot((length(subtract(to.arm.wrist, to.arm.elbow)) * turn) / path, MODEL) } };
  });
}
