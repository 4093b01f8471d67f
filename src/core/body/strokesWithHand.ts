import type { FrameMeasures, Quantity } from '../measures/measures';
import { mean, slope } from '../statistics';
import type { Stroke } from '../strokes/stroke';

/** Middle joints of the fingers that give along the bow. */
const JOINTS: readonly Quantity[] = ['index_pip_deg', 'middle_pip_deg', 'ring_pip_deg', 'little_pip_deg'];
/** A stroke must cover this share of the bow to speak of the hand's giving (ours). */
const LEAST_SHARE = 0.45;
/** Share of a joint's doubt that differs along one stroke; the rest moves all of it alike (ours). */
const OWN = 0.35;

/** The hand must have been placed by hand in frames so far apart on the bow: the networks lose what changes along it (share of the hair; measured on close-ups). */
const LEAST_APART = 0.4;

/**
 * Strokes with how much the fingers change along the bow: each joint's own slope, for a rigid hand changes none.
 * `marked` are the places in the film of the frames in which the teacher placed the hand.
 */
export function strokesWithHand(strokes: readonly Stroke[], frames: readonly FrameMeasures[], marked: ReadonlySet<number>): readonly Stroke[] {
  const positions = frames.flatMap((f) => (marked.has(f.frame) && f.values.bow_position ? [f.values.bow_position.value] : []));
  if (positions.length < 2 || Math.max(...positions) - Math.min(...positions) < LEAST_APART) return strokes;
  return strokes.map((stroke) => {
    if (Math.abs(stroke.toPosition - stroke.fromPosition) < LEAST_SHARE) return stroke;
    const inside = frames.slice(stroke.first, stroke.last + 1);
    const told = JOINTS.flatMap((joint) => {
      const both = inside.filter((f) => f.values[joint] && f.values.bow_position);
      const line =
        both.length >= 0.6 * inside.length
          ? slope(
              both.map((f) => f.values.bow_position!.value),
              both.map((f) => f.values[joint]!.value),
            )
          : undefined;
      return line ? [{ change: Math.abs(line.slope), u: Math.hypot(line.u, OWN * mean(both.map((f) => f.values[joint]!.u))) }] : [];
    });
    if (told.length < 2) return stroke;
    return { ...stroke, handMobility: { value: mean(told.map((j) => j.change)), u: mean(told.map((j) => j.u)) / Math.sqrt(told.length) } };
  });
}
