import moduleUrl from 'onnxruntime-web/ort-wasm-simd-threaded.mjs?url';
import wasmUrl from 'onnxruntime-web/ort-wasm-simd-threaded.wasm?url';
import * as ort from 'onnxruntime-web/wasm';
import { HAND_CELLS, HAND_INPUT, HAND_POINTS, readHandMaps } from '../../core/body/handMaps';
import type { HeldJoint } from '../../core/body/handView';
import type { Vec2 } from '../../core/geometry/vec3';
import { mean } from '../../core/statistics';
import type { HandSquare } from './bowHand';
import weightsUrl from './weights/hand.onnx?url';

/** The hand network of our own (see training/), told how the bow lies; run on the processor in a worker. */
export class HandNetwork {
  private readonly canvas = new OffscreenCanvas(HAND_INPUT, HAND_INPUT);
  private readonly context = this.canvas.getContext('2d', { willReadFrequently: true })!;

  private constructor(private readonly session: ort.InferenceSession) {}

  static async open(): Promise<HandNetwork> {
    ort.env.wasm.wasmPaths = { mjs: moduleUrl, wasm: wasmUrl };
    // Several pictures are looked at side by side already.
    ort.env.wasm.numThreads = 1;
    return new HandNetwork(await ort.InferenceSession.create(weightsUrl, { executionProviders: ['wasm'], graphOptimizationLevel: 'all' }));
  }

  /** The 21 joints of the hand that holds the bow, px of the whole picture: looked at where it must be, and once more where it is. */
  async look(picture: ImageBitmap, square: HandSquare): Promise<HeldJoint[]> {
    const first = await this.lookAt(picture, square);
    const middle = (axis: 0 | 1) => mean(first.map((joint) => joint.point[axis]));
    return this.lookAt(picture, { ...square, centre: [middle(0), middle(1)] });
  }

  private async lookAt(picture: ImageBitmap, square: HandSquare): Promise<HeldJoint[]> {
    this.draw(picture, square);
    const plane = HAND_INPUT * HAND_INPUT;
    const { data } = this.context.getImageData(0, 0, HAND_INPUT, HAND_INPUT);
    const input = new Float32Array(3 * plane);
    for (let i = 0; i < plane; i++) for (let c = 0; c < 3; c++) input[c * plane + i] = data[4 * i + c]! / 127.5 - 1;
    const { maps } = await this.session.run({
      picture: new ort.Tensor('float32', input, [1, 3, HAND_INPUT, HAND_INPUT]),
      bow: new ort.Tensor('float32', Float32Array.from(square.bow), [1, 6]),
    });
    const { centre, side, size, mirrored } = square;
    const pixel = side / HAND_INPUT;
    return readHandMaps(((await maps!.getData()) as Float32Array).subarray(0, 2 * HAND_POINTS * HAND_CELLS * HAND_CELLS)).map(({ place, spread, deeper }) => {
      const [x, y] = place.map((p) => (p + 0.5 - HAND_INPUT / 2) * pixel) as unknown as Vec2;
      return { point: [centre[0] + (mirrored ? -x : x), centre[1] + y], sigma: spread * pixel, deeper: deeper * size };
    });
  }

  private draw(picture: ImageBitmap, { centre, side, mirrored }: HandSquare): void {
    const c = this.context;
    const k = HAND_INPUT / side;
    c.setTransform(1, 0, 0, 1, 0, 0);
    c.fillStyle = '#808080';
    c.fillRect(0, 0, HAND_INPUT, HAND_INPUT);
    c.imageSmoothingEnabled = true;
    c.imageSmoothingQuality = 'high';
    c.translate(HAND_INPUT / 2, HAND_INPUT / 2);
    c.scale(mirrored ? -k : k, k);
    c.translate(-centre[0], -centre[1]);
    c.drawImage(picture, 0, 0);
  }

  close(): Promise<void> {
    return this.session.release();
  }
}
