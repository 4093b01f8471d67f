import { type Camera, cameraFromFieldOfView, ray } from '../../core/geometry/camera';
import { type Pose, toInner } from '../../core/geometry/pose';
import { scale, type Vec2 } from '../../core/geometry/vec3';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { type InstrumentModel, instrumentModel } from '../../core/instrument/landmarks';
import { buildRelief, renderDepth } from '../../core/instrument/relief';
import { seededRandom } from '../../core/random';

/** Brightness of what lies before everything else at a place of the picture; undefined where nothing does. */
export type Before = (p: Vec2) => number | undefined;

/** For tests: a violin of grained wood before a busy wall. */
export interface TexturedViolin {
  readonly camera: Camera;
  readonly model: InstrumentModel;
  /** Brightness of a picture, row by row, with the violin at a pose (none: only the wall) and something before it. */
  shoot(pose: Pose | undefined, seed: number, before?: Before): Uint8Array;
}

/** Smooth random brightness over the plane, repeatable: a sum of waves. */
function waves(seed: number, finest: number): (x: number, y: number) => number {
  const random = seededRandom(seed);
  const parts = Array.from({ length: 24 }, () => ({ kx: (random() - 0.5) * finest, ky: (random() - 0.5) * finest, phase: random() * 6.3, a: 5 + 9 * random() }));
  return (x, y) => parts.reduce((sum, w) => sum + w.a * Math.sin(w.kx * x + w.ky * y + w.phase), 0);
}

/** A full-size violin to be shot in pictures of a size, px. */
export function texturedViolin(width: number, height: number): TexturedViolin {
  const camera = cameraFromFieldOfView(width, height);
  const model = instrumentModel(dimensionsOf('violin', '4/4'));
  const relief = buildRelief(model);
  const [wood, room] = [waves(1, 0.5), waves(2, 0.35)];
  const wall = Float32Array.from({ length: width * height }, (_, i) => 130 + room((i % width) + 0.5, Math.floor(i / width) + 0.5));
  return {
    camera,
    model,
    shoot(pose, seed, before) {
      const luma = new Uint8Array(width * height);
      const map = pose && renderDepth(relief, pose, camera);
      const noise = seededRandom(seed);
      for (let y = 0; y < height; y++) {
        for (let x = 0; x < width; x++) {
          const p: Vec2 = [x + 0.5, y + 0.5];
          let v = before?.(p);
          if (v === undefined && map) {
            const [column, row] = [x - map.x0, y - map.y0];
            const depth = column >= 0 && row >= 0 && column < map.width && row < map.height ? map.depth[row * map.width + column]! : 0;
            if (depth > 0) {
              const [along, across, up] = toInner(pose!, scale(ray(camera, p), depth));
              v = 120 + wood(along, across) + 0.4 * up;
            }
          }
          luma[y * width + x] = Math.max(0, Math.min(255, (v ?? wall[y * width + x]!) + 4 * (noise() - 0.5)));
        }
      }
      return luma;
    },
  };
}
