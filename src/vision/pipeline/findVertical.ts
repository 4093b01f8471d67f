import type { Marks } from '../../core/formats/marks';
import type { Camera } from '../../core/geometry/camera';
import { type ImageSegment, meanZenith, type Zenith, zenithOf } from '../../core/geometry/zenith';
import { nearestIndex } from '../../core/nearestIndex';
import type { Frame, FrameAt } from '../film/frame';
import { halfFrame } from '../film/halfFrame';
import { steepLines } from '../film/steepLines';

/** Frames of a clip in which the room's vertical lines are looked for, and in how many they must show: lines of one picture alone may be an arm and a bow. */
const LOOKS = 5;
const LEAST_FOUND = 2;

/** The line marked as plumb. */
export const plumbOf = ({ plumb }: Marks): ImageSegment | undefined => plumb && { a: plumb[0], b: plumb[1] };

/** Up in the camera's frame, from the room's upright lines in some frames spread over the clip and the plumb line, if one is marked. The camera's focal length counts as exact. */
export async function findVertical(times: Float64Array, frameAt: FrameAt, marks: Marks, camera: Camera): Promise<Zenith | undefined> {
  const last = times.length - 1;
  // The plumb line was drawn over the marked frame; a hand-held camera has moved in others.
  const marked = nearestIndex(times, marks.frames[0]!.t);
  const indices = new Set([marked, ...Array.from({ length: LOOKS - 1 }, (_, i) => Math.round((last * i) / (LOOKS - 2)))]);
  const line = plumbOf(marks);
  const plumb = line ? [line] : [];
  const least = plumb.length > 0 ? 1 : Math.min(LEAST_FOUND, indices.size);
  // Lines too faint or too blurred for the picture itself show at half its size, less exactly.
  for (const zenithIn of [zenithOfFrame, zenithOfHalf]) {
    const found: Zenith[] = [];
    for (const index of indices) {
      const zenith = zenithIn(await frameAt(index), camera, index === marked ? plumb : []);
      if (zenith) found.push(zenith);
    }
    const mean = found.length >= least ? meanZenith(found) : undefined;
    if (mean) return mean;
  }
  return undefined;
}

const zenithOfFrame = (frame: Frame, camera: Camera, plumb: readonly ImageSegment[]): Zenith | undefined => zenithOf(camera, steepLines(frame), plumb);

function zenithOfHalf(frame: Frame, camera: Camera, plumb: readonly ImageSegment[]): Zenith | undefined {
  const half = halfFrame(frame);
  const halved = ({ a, b }: ImageSegment): ImageSegment => ({ a: [a[0] / 2, a[1] / 2], b: [b[0] / 2, b[1] / 2] });
  return zenithOf({ ...camera, width: half.width, height: half.height, focal: camera.focal / 2 }, steepLines(half), plumb.map(halved));
}
