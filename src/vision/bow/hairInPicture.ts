import { type BowOnString, hairLine } from '../../core/bow/bowState';
import type { BowContext } from '../../core/bow/residuals';
import { project } from '../../core/geometry/camera';
import { type Pose, toOuter } from '../../core/geometry/pose';
import { mix, type Vec2 } from '../../core/geometry/vec3';
import { STATIONS, stationShare } from './bowStrip';

const hairOf = (context: BowContext, bow: BowOnString) => hairLine(bow.state, context.strings[bow.string]!, context.hair, context.side);

/** Both ends of the hair in the picture; undefined when one lies behind the camera. */
export function hairEnds(pose: Pose, context: BowContext, bow: BowOnString): { frog: Vec2; tip: Vec2 } | undefined {
  const line = hairOf(context, bow);
  const frog = project(context.camera, toOuter(pose, line.frog));
  const tip = project(context.camera, toOuter(pose, line.tip));
  return frog && tip ? { frog, tip } : undefined;
}

/** Places along the hair in the picture, and the picture's scale at each (px a mm). */
export function hairStations(pose: Pose, context: BowContext, bow: BowOnString): { points: Vec2[]; scale: Float64Array } | undefined {
  const line = hairOf(context, bow);
  const points: Vec2[] = [];
  const scale = new Float64Array(STATIONS);
  for (let k = 0; k < STATIONS; k++) {
    const p = toOuter(pose, mix(line.frog, line.tip, stationShare(k)));
    const image = project(context.camera, p);
    if (!image) return undefined;
    points.push(image);
    scale[k] = context.camera.focal / p[2];
  }
  return { points, scale };
}
