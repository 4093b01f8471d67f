import { cameraFromFieldOfView, ray } from '../../core/geometry/camera';
import { type Pose, toInner } from '../../core/geometry/pose';
import { scale } from '../../core/geometry/vec3';
import { bodyPoint } from '../../core/instrument/body';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { instrumentModel } from '../../core/instrument/landmarks';
import { buildRelief, renderDepth } from '../../core/instrument/relief';
import { normal, seededRandom } from '../../core/random';
import type { ColourPicture } from '../image/colourPicture';

// For tests: a violin whose place in its picture is known.
const [width, height] = [960, 540];
export const camera = cameraFromFieldOfView(width, height);
export const dimensions = dimensionsOf('violin', '4/4');
export const model = instrumentModel(dimensions);
const edgePlane = bodyPoint(model.frame, 0, 0, 0)[2];

/** A plain violin before a striped wall: brown plate, darker ribs, black fingerboard. */
export function paintViolin(pose: Pose, seed: number): ColourPicture {
  const random = seededRandom(seed);
  const data = new Uint8ClampedArray(4 * width * height);
  const wood = renderDepth(buildRelief(model), pose, camera);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let colour = Math.floor((x + 0.4 * y) / 37) % 2 ? [120, 130, 140] : [165, 160, 150];
      const [i, j] = [x - wood.x0, y - wood.y0];
      const depth = i >= 0 && j >= 0 && i < wood.width && j < wood.height ? wood.depth[j * wood.width + i]! : 0;
      if (depth > 0) {
        const [along, across, up] = toInner(pose, scale(ray(camera, [x + 0.5, y + 0.5]), depth));
        const board = along > model.fingerboardEndX - 2 && Math.abs(across) < 24 && up > -16;
        const rib = up < edgePlane + 0.139 * along - 0.5;
        colour = board ? [35, 32, 32] : rib ? [110, 60, 25] : [170, 95, 40];
      }
      for (let c = 0; c < 3; c++) data[4 * (y * width + x) + c] = colour[c]! + 5 * normal(random);
    }
  }
  return { width, height, data };
}
