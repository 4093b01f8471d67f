import moduleUrl from 'onnxruntime-web/ort-wasm-simd-threaded.mjs?url';
import wasmUrl from 'onnxruntime-web/ort-wasm-simd-threaded.wasm?url';
import * as ort from 'onnxruntime-web/wasm';
import type { Look } from '../../core/start/fuse';
import { CELLS, INPUT, NETWORK_POINTS, readMaps } from '../../core/start/landmarkMaps';
import type { Square } from '../../core/start/square';
import weightsUrl from './weights/landmarks.onnx?url';

/** Threads share memory only where the server's headers keep the page to itself. Two, as many as the machine has on which this was timed: a look takes 26 ms instead of 42. */
const THREADS = crossOriginIsolated ? 2 : 1;

/** The landmark network of our own (see training/), run on the processor in a worker. */
export class LandmarkNetwork {
  private readonly canvas = new OffscreenCanvas(INPUT, INPUT);
  private readonly context = this.canvas.getContext('2d', { willReadFrequently: true })!;

  private constructor(private readonly session: ort.InferenceSession) {}

  static async open(): Promise<LandmarkNetwork> {
    ort.env.wasm.wasmPaths = { mjs: moduleUrl, wasm: wasmUrl };
    ort.env.wasm.numThreads = THREADS;
    const session = await ort.InferenceSession.create(weightsUrl, {
      executionProviders: ['wasm'],
      graphOptimizationLevel: 'all',
      // Threads that spin between two looks take the processor from all other work.
      extra: { session: { intra_op: { allow_spinning: '0' } } },
    });
    return new LandmarkNetwork(session);
  }

  /** Looks at squares of a picture. */
  async look(picture: ImageBitmap, squares: readonly Square[]): Promise<Look[]> {
    const plane = INPUT * INPUT;
    const input = new Float32Array(3 * plane * squares.length);
    squares.forEach((square, n) => {
      this.draw(picture, square);
      const { data } = this.context.getImageData(0, 0, INPUT, INPUT);
      for (let i = 0; i < plane; i++) for (let c = 0; c < 3; c++) input[(3 * n + c) * plane + i] = data[4 * i + c]! / 127.5 - 1;
    });
    const { maps } = await this.session.run({ picture: new ort.Tensor('float32', input, [squares.length, 3, INPUT, INPUT]) });
    const all = (await maps!.getData()) as Float32Array;
    const size = NETWORK_POINTS.length * CELLS * CELLS;
    return squares.map((square, n) => ({ square, seen: readMaps(all.subarray(n * size, (n + 1) * size)) }));
  }

  private draw(picture: ImageBitmap, { middle, side, turn }: Square): void {
    const c = this.context;
    const k = INPUT / side;
    c.setTransform(1, 0, 0, 1, 0, 0);
    c.fillStyle = '#000';
    c.fillRect(0, 0, INPUT, INPUT);
    c.imageSmoothingEnabled = true;
    c.imageSmoothingQuality = 'high';
    c.translate(INPUT / 2, INPUT / 2);
    c.rotate(turn);
    c.scale(k, k);
    c.translate(-middle[0], -middle[1]);
    c.drawImage(picture, 0, 0);
  }

  close(): Promise<void> {
    return this.session.release();
  }
}
