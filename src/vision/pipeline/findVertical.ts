import type { Marks } from '../../core/formats/marks';
import type { Camera } from '../../core/geometry/camera';
import { type ImageSegment, meanZenith, type Zenith, zenithOf } from '../../core/geometry/zenith';
import { nearestIndex } from '../../core/nearestIndex';
import type { Frame, FrameAt } from '../film/frame';
import { halfFrame } from '../film/halfFrame';
import { steepLines } from '../film/steepLines';

/**
 * Frames of a clip in which the room's vertical lines are looked for, and in how many they must show: lines of one picture alone
 * may be an arm and a bow. Where they stand out little they do so in some pictures only, and more of them are looked at (ours).
 */
const LOOKS = { few: 5, many: 11 } as const;
const LEAST_FOUND = { few: 2, many: 3 } as const;

/** The line marked as plumb. */
export const plumbOf = ({ plumb }: Marks): ImageSegment | undefined => plumb && { a: plumb[0], b: plumb[1] };

/** Up in the camera's frame, from the room's upright lines in some frames spread over the clip and the plumb line, if one is marked. The camera's focal length counts as exact. */
export async function findVertical(times: Float64Array, frameAt: FrameAt, marks: Marks, camera: Camera): Promise<Zenith | undefined> {
  // The plumb line was drawn over the marked frame; a hand-held camera has moved in others.
  const marked = nearestIndex(times, marks.frames[0]!.t);
  const spread = (count: number) => [...new Set([marked, ...Array.from({ length: count - 1 }, (_, i) => Math.round(((times.length - 1) * i) / (count - 2)))])];
  const line = plumbOf(marks);
  const plumb = line ? [line] : [];
  const told = async (indices: readonly number[], least: number, zenithIn: typeof zenithOfFrame) => {
    const found: Zenith[] = [];
    for (const index of indices) {
      const zenith = zenithIn(await frameAt(index), camera, index === marked ? plumb : []);
      if (zenith) found.push(zenith);
    }
    return found.length >= Math.min(plumb.length > 0 ? 1 : least, indices.length) ? meanZenith(found) : undefined;
  };
  const few = spread(LOOKS.few);
  return (
    (await told(few, LEAST_FOUND.few, zenithOfFrame)) ??
    (await told(spread(LOOKS.many), LEAST_FOUND.many, zenithOfFrame)) ??
    // Lines too faint or too blurred for the picture itself show at half its size, less exactly.
    (await told(few, LEAST_FOUND.few, zenithOfHalf))
  );
}

const zenithOfFrame = (frame: Frame, camera: Camera, plumb: readonly ImageSegment[]): Zenith | undefined => zenithOf(camera, steepLines(frame), plumb);

function zenithOfHalf(frame: Frame, camera: Camera, plumb: readonly ImageSegment[]): Zenith | undefined {
  const half = halfFrame(frame);
  const halved = ({ a, b }: ImageSegment): ImageSegment => ({ a: [a[0] / 2, a[1] / 2], b: [b[0] / 2, b[1] / 2] });
  return zenithOf({ ...camera, width: half.width, height: half.height, focal: camera.focal / 2 }, steepLines(half), plumb.map(halved));
}
