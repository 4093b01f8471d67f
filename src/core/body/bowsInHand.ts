import { bowInSpace } from '../bow/bowInSpace';
import type { BowOnString } from '../bow/bowState';
import type { BowContext } from '../bow/residuals';
import { project } from '../geometry/camera';
import type { TrackedFrame } from '../measures/measureFrames';
import { type BodySighting, LEAST_SEEN, seenTorso } from './sighting';

/** A wrist further from the frog holds no bow there (share of the torso; ours: 0.3 in the median of 15 clips of two renderers, at most one look in a row beyond this but where ends were mistaken). */
const REACH = 0.6;

/** Whether the bow arm, as seen in the picture, could hold the bow where it was taken to be, by frame; frames not looked at, or without a bow, are left out. */
export function bowsInHand(
  context: BowContext,
  tracked: readonly TrackedFrame[],
  bows: readonly (BowOnString | undefined)[],
  bodies: readonly BodySighting[],
): Map<number, boolean> {
  const place = new Map(tracked.map((f, i) => [f.index, i]));
  return new Map(
    bodies.flatMap(({ frame, joints }): [number, boolean][] => {
      const i = place.get(frame);
      const [pose, bow] = i === undefined ? [] : [tracked[i]!.pose, bows[i]];
      const wrist = joints?.['wrist.right'];
      const frog = pose && bow && project(context.camera, bowInSpace(context, pose, bow).frog);
      if (!joints || !wrist || wrist.seen < LEAST_SEEN || !frog) return [];
      return [[frame, Math.hypot(wrist.point[0] - frog[0], wrist.point[1] - frog[1]) <= REACH * seenTorso(joints)]];
    }),
  );
}
