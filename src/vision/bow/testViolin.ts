import type { BowContext } from '../../core/bow/residuals';
import { cameraFromFieldOfView } from '../../core/geometry/camera';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { instrumentModel } from '../../core/instrument/landmarks';
import { stringLevels, stringLines } from '../../core/instrument/strings';
import type { Frame, FrameSource } from '../film/frame';

/** Size of the pictures that tests draw, px. */
export const W = 960;
export const H = 540;
const model = instrumentModel(dimensionsOf('violin', '4/4'));
/** A full-size violin before a camera, for tests that draw a bow on it. */
export const context: BowContext = {
  camera: cameraFromFieldOfView(W, H),
  strings: stringLines(model, 'violin'),
  levels: stringLevels(model, 'violin'),
  hair: 650,
  side: 1,
  lengthSigma: 0.02,
};

/** A film of so many frames, 30 a second, for tests that never look at its pictures. */
export const blankFilm = (frames: number): FrameSource => ({
  width: W,
  height: H,
  times: Float64Array.from({ length: frames }, (_, i) => i / 30),
  async *forward(from, to) {
    for (let index = from; index < to; index++) yield { index, t: index / 30, width: W, height: H, luma: new Uint8Array(0) } satisfies Frame;
  },
});
