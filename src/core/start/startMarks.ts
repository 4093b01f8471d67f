import type { Marks } from '../formats/marks';
import type { FilmedPicture } from '../geometry/camera';
import type { Vec2 } from '../geometry/vec3';
import type { Family } from '../instrument/family';
import type { FrameLook } from './outcome';

/** What is known of a clip before it is looked at: the instrument from the student's record, and how far the lens was zoomed where the teacher said so. */
export interface KnownOfClip {
  readonly family: Family;
  readonly size: string;
  readonly side?: 'left' | 'right' | undefined;
  readonly zoom?: number | undefined;
}

/**
 * A start as marks of its frame, all of them found, with the frames that agree with it beside. Looks of a left-handed
 * player are of the mirrored picture; the marks are of the picture as it is.
 * @param picture what the film shows
 */
export function startMarks(picture: FilmedPicture, { family, size, side }: Omit<KnownOfClip, 'zoom'>, look: FrameLook, agreeing: readonly FrameLook[]): Marks {
  const { width, height, zoom } = picture;
  const frameOf = (l: FrameLook) => markedFrame(picture, side === 'left', l);
  return {
    format: 'gestometra-marks/1',
    video: { width, height, ...(zoom === undefined ? {} : { zoom }) },
    instrument: { family, size, ...(side ? { side } : {}) },
    frames: [frameOf(look)],
    ...(agreeing.length ? { agreeing: agreeing.map(frameOf) } : {}),
  };
}

function markedFrame({ width, height }: FilmedPicture, mirrored: boolean, look: FrameLook): Marks['frames'][number] {
  const back = ([x, y]: Vec2): [number, number] => [round(mirrored ? width - x : x), round(y)];
  const points: Record<string, [number, number]> = {};
  for (const { landmark, point } of look.placed!.sightings) if (point[0] >= 0 && point[1] >= 0 && point[0] <= width && point[1] <= height) points[landmark] = back(point);
  if (look.bow) {
    points['bow.frog'] = back(look.bow.frog);
    points['bow.tip'] = back(look.bow.tip);
  }
  const reckoned = look.bow?.frogReckoned ? ['bow.frog'] : [];
  return { t: look.t, points, ...(reckoned.length ? { guessed: reckoned } : {}), found: Object.keys(points).filter((n) => !reckoned.includes(n)) };
}

const round = (x: number): number => Math.round(100 * x) / 100;
