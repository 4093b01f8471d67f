import { hairDirection, skewOf } from '../bow/bowState';
import type { Pose } from '../geometry/pose';
import { rotate, rotateBack } from '../geometry/rotation';
import { DEGREES } from '../geometry/vec3';
import type { FrameMeasures } from '../measures/measures';
import type { Stroke } from './stroke';

/** Poses of the instrument in the camera frame, frame by frame; the camera is taken to stand still. */
export interface RoomMotion {
  readonly poses: readonly (Pose | undefined)[];
  readonly side: 1 | -1;
}

/** A change of skew, split into what bow and instrument turned in the room. Degrees; + makes the tip go to the scroll. */
export interface SkewSplit {
  readonly bow: number;
  readonly instrument: number;
}

/**
 * Splits the change of skew from one frame to another: what the bow turned with the instrument held, and the
 * other way round, both orders averaged (section 6 of the measurement reference). Undefined where something was not measured.
 */
export function splitSkewChange(frames: readonly FrameMeasures[], motion: RoomMotion, from: number, to: number): SkewSplit | undefined {
  const known = (i: number) => frames[i]?.values.skew_deg && frames[i].values.inclination_deg && motion.poses[i];
  if (!known(from) || !known(to)) return undefined;
  const inRoom = (i: number) => rotate(motion.poses[i]!.rotation, hairDirection(frames[i]!.values.skew_deg!.value, frames[i]!.values.inclination_deg!.value, motion.side));
  const skew = (bow: number, instrument: number) => skewOf(rotateBack(motion.poses[instrument]!.rotation, inRoom(bow)), motion.side);
  return {
    bow: (skew(to, from) - skew(from, from) + skew(to, to) - skew(from, to)) / 2,
    instrument: (skew(from, to) - skew(from, from) + skew(to, to) - skew(to, from)) / 2,
  };
}

/** What happened in the room during one stroke. */
export interface StrokeMotion {
  readonly stroke: number;
  /** Range of the direction of the instrument's long axis, degrees (`instrument_swing_deg`). */
  readonly swing?: number;
  /** From the stroke's first to its last measured frame. */
  readonly split?: SkewSplit;
}

/** Swing of the instrument and the split of the skew's change, stroke by stroke. */
export function strokeMotions(frames: readonly FrameMeasures[], strokes: readonly Stroke[], motion: RoomMotion): StrokeMotion[] {
  return strokes.map((stroke) => {
    const axes: (readonly [number, number, number])[] = [];
    let first: number | undefined;
    let last: number | undefined;
    for (let i = stroke.first; i <= stroke.last; i++) {
      const pose = motion.poses[i];
      if (!pose) continue;
      axes.push(rotate(pose.rotation, [1, 0, 0]));
      if (frames[i]!.values.skew_deg && frames[i]!.values.inclination_deg) {
        first ??= i;
        last = i;
      }
    }
    const split = first !== undefined && last !== undefined && last > first ? splitSkewChange(frames, motion, first, last) : undefined;
    return { stroke: stroke.index, ...(axes.length > 4 ? { swing: widest(axes) } : {}), ...(split ? { split } : {}) };
  });
}

/** Largest angle between two of the directions, degrees. */
function widest(axes: readonly (readonly [number, number, number])[]): number {
  let least = 1;
  for (let i = 0; i < axes.length; i++)
    for (let j = i + 1; j < axes.length; j++) least = Math.min(least, axes[i]![0] * axes[j]![0] + axes[i]![1] * axes[j]![1] + axes[i]![2] * axes[j]![2]);
  return Math.acos(Math.max(-1, least)) * DEGREES;
}
