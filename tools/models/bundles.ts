import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { zipSync } from 'fflate';
import type { Plugin } from 'vite';
import { normalisationMetadata } from './normalisation';
import { withMetadata } from './withMetadata';

/** Where the bundles are made; `src/vision/body` imports them from here. */
export const MODELS = '.cache/models';
const WEIGHTS = 'node_modules/@mediapipe';
/** Where the full palm detector lies in the hand package's data (version 0.4.1675469240). */
const PALM_DETECTOR = [11, 2341291] as const;

/** Where the short-range face detector lies in the face package's data (version 0.4.1633559619). */
const FACE_DETECTOR = [3757224, 3986256] as const;

/** Pixels as -1..1 and as 0..1. */
const SIGNED = normalisationMetadata(127.5, 127.5);
const UNSIGNED = normalisationMetadata(0, 255);

const read = (path: string): Uint8Array => new Uint8Array(readFileSync(join(WEIGHTS, path)));

/** The task loader maps the networks in place: they are stored, not packed. */
const stored = (files: Record<string, Uint8Array>): Uint8Array => zipSync(files, { level: 0, mtime: new Date(2020, 0, 1) });

const BUNDLES: Readonly<Record<string, () => Uint8Array>> = {
  'pose.task': () =>
    stored({
      'pose_detector.tflite': withMetadata(read('pose/pose_solution_packed_assets.data'), SIGNED),
      'pose_landmarks_detector.tflite': withMetadata(read('pose/pose_landmark_full.tflite'), UNSIGNED),
    }),
  'hand.task': () =>
    stored({
      'hand_detector.tflite': withMetadata(read('hands/hands_solution_packed_assets.data').slice(...PALM_DETECTOR), UNSIGNED),
      'hand_landmarks_detector.tflite': withMetadata(read('hands/hand_landmark_full.tflite'), UNSIGNED),
    }),
  'face.tflite': () => withMetadata(read('face_mesh/face_mesh_solution_packed_assets.data').slice(...FACE_DETECTOR), SIGNED),
};

/** Makes the bundles of body, hand and face networks from the weights in the packages, where they are not made yet. */
export function makeModelBundles(): void {
  mkdirSync(MODELS, { recursive: true });
  for (const [name, make] of Object.entries(BUNDLES)) {
    const path = join(MODELS, name);
    if (!existsSync(path)) writeFileSync(path, make());
  }
}

/** Has the bundles ready before anything that imports them is built. */
export function modelBundles(): Plugin {
  return {
    name: 'model-bundles',
    config() {
      makeModelBundles();
      return { assetsInclude: ['**/*.task', '**/*.tflite'] };
    },
  };
}
