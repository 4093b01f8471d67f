import { PRESETS, scenarioOf } from '../synth/presets/presets';
import type { Scenario } from '../synth/presets/scenario';

/** Clips of the accuracy run: kinds of playing and view, each with seeds of its own. Shorter than the demo, to render in minutes. */
const KINDS: readonly (readonly [preset: string, seeds: readonly number[]])[] = [
  ['straight', [2, 3]],
  ['arc-to-fingerboard', [2, 3]],
  ['tip-to-player', [2]],
  ['at-bridge', [2]],
  ['scroll-side', [2]],
  ['bow-side', [2]],
  ['half-size', [2]],
  ['viola', [2]],
  ['dim', [2]],
  ['instrument-swings', [2]],
];

export function accuracyScenarios(only?: string): Scenario[] {
  return KINDS.filter(([preset]) => !only || preset === only).flatMap(([preset, seeds]) =>
    seeds.map((seed) => {
      const strokes = (PRESETS[preset]!.strokes ?? scenarioOf(preset, 1).strokes).slice(0, 4);
      return scenarioOf(preset, seed, { strokes });
    }),
  );
}
