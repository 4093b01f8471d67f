import { type Camera, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import type { Vec2, Vec3 } from '../geometry/vec3';
import type { InstrumentModel } from './landmarks';
import { plateOutline } from './plateOutline';
import type { StringLine } from './strings';

/** The solved instrument as lines of the picture, to be laid over the film. */
export function instrumentWire(camera: Camera, pose: Pose, model: InstrumentModel, strings: readonly StringLine[]): Vec2[][] {
  const lm = model.landmarks;
  const lines: Vec3[][] = [
    plateOutline(model),
    [lm['instrument.nut.low'], lm['instrument.fingerboardEnd.low'], lm['instrument.fingerboardEnd.high'], lm['instrument.nut.high'], lm['instrument.nut.low']],
    [lm['instrument.bridgeFoot.low'], lm['instrument.bridge.low'], ...strings.map((s) => s.bridge).slice(1, -1), lm['instrument.bridge.high'], lm['instrument.bridgeFoot.high']],
    ...strings.map((s) => [s.bridge, s.nut]),
  ];
  return lines.map((line) =>
    line.flatMap((p) => {
      const image = project(camera, toOuter(pose, p));
      return image ? [image] : [];
    }),
  );
}
