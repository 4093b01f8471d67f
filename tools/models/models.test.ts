import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { MODELS, makeModelBundles } from './bundles';
import { normalisationMetadata } from './normalisation';
import { withMetadata } from './withMetadata';

const u32 = (b: Uint8Array, at: number) => new DataView(b.buffer, b.byteOffset).getUint32(at, true);

describe('model bundles', () => {
  it('hold detector and landmark network, each with the metadata the loader asks for, stored unpacked', () => {
    makeModelBundles();
    for (const [name, parts] of [
      ['pose.task', ['pose_detector.tflite', 'pose_landmarks_detector.tflite']],
      ['hand.task', ['hand_detector.tflite', 'hand_landmarks_detector.tflite']],
    ] as const) {
      const bytes = new Uint8Array(readFileSync(`${MODELS}/${name}`));
      const files = unzipSync(bytes);
      expect(Object.keys(files)).toEqual(parts);
      for (const file of Object.values(files)) {
        const text = Buffer.from(file).toString('latin1', 0, 4096);
        expect(text.slice(4, 8)).toBe('TFL3');
        expect(text).toContain('TFLITE_METADATA');
        expect(text).toContain('M001');
      }
      expect(bytes.length).toBeGreaterThan(Object.values(files).reduce((n, f) => n + f.length, 0));
    }
  });
  it('hold the face network by itself, whole', () => {
    const made = readFileSync(`${MODELS}/face.tflite`);
    expect(made.toString('latin1', 4, 8)).toBe('TFL3');
    const data = readFileSync('node_modules/@mediapipe/face_mesh/face_mesh_solution_packed_assets.data');
    // Behind its new root the network stands as it does at the end of the package's data.
    expect(made.subarray(-200_000).equals(data.subarray(-200_000))).toBe(true);
  });
  it('leave the network itself untouched behind its new root', () => {
    const files = unzipSync(new Uint8Array(readFileSync(`${MODELS}/pose.task`)));
    const old = new Uint8Array(readFileSync('node_modules/@mediapipe/pose/pose_landmark_full.tflite'));
    const made = files['pose_landmarks_detector.tflite']!;
    expect(Buffer.compare(made.subarray(made.length - old.length), old)).toBe(0);
    expect(u32(made, 0)).toBeLessThan(made.length - old.length);
  });
  it('refuse what is no network', () => {
    expect(() => withMetadata(new Uint8Array(64), normalisationMetadata(0, 255))).toThrow(/TFL3/);
  });
});
