import { withFaults } from '../synth/presets/faults';
import { PRESETS, scenarioOf } from '../synth/presets/presets';
import type { Scenario } from '../synth/presets/scenario';

/** What makes a clip hard for a tracker, for the table by difficulty. */
export type Difficulty = 'plain' | 'frog hidden' | 'small picture' | 'dark' | 'blurred' | 'moving' | 'large or fast film' | 'hand from close by';

interface Kind {
  readonly preset: string;
  readonly seed: number;
  readonly difficulty?: Difficulty;
  readonly film?: Partial<Pick<Scenario, 'width' | 'height' | 'framesPerSecond' | 'view' | 'frogMarked' | 'noise' | 'bitrate'>>;
  /** Strokes kept of the preset's. */
  readonly strokes?: number;
  /** A fault played throughout. */
  readonly fault?: string;
}

const SMALL = { width: 960, height: 540, bitrate: 1_500_000 } as const;

/** A hold filmed from close by, as the task "bow hold" asks. */
const hold = (view: 'hand-front' | 'hand-low', seed: number, fault?: string): Kind => ({ preset: view, seed, fault, strokes: 1, difficulty: 'hand from close by', film: SMALL });

/** Clips of the accuracy run, with seeds of their own; shorter than the demo, to render in minutes. */
const KINDS: readonly Kind[] = [
  { preset: 'straight', seed: 2 },
  { preset: 'straight', seed: 3, film: SMALL },
  { preset: 'arc-to-fingerboard', seed: 2 },
  { preset: 'arc-to-fingerboard', seed: 3, film: SMALL },
  { preset: 'tip-to-player', seed: 2, film: SMALL },
  { preset: 'at-bridge', seed: 2, film: SMALL },
  { preset: 'crossings', seed: 2, strokes: 4 },
  { preset: 'crossings', seed: 3, strokes: 4, film: SMALL },
  { preset: 'scroll-side', seed: 2, strokes: 4 },
  { preset: 'scroll-side', seed: 3, strokes: 4, film: SMALL },
  { preset: 'bow-side', seed: 2 },
  { preset: 'bow-side', seed: 3, film: SMALL },
  { preset: 'half-size', seed: 2 },
  { preset: 'quarter-size', seed: 2, film: SMALL },
  { preset: 'viola', seed: 2, film: { width: 720, height: 1280 } },
  { preset: 'left-handed', seed: 2, film: SMALL },
  { preset: 'instrument-swings', seed: 2, film: SMALL },
  { preset: 'strong-sway', seed: 2, difficulty: 'moving' },
  { preset: 'strong-sway', seed: 3, difficulty: 'moving', film: { ...SMALL, view: 'scroll-side' } },
  { preset: 'rolling-shutter', seed: 2, difficulty: 'moving', film: SMALL },
  { preset: 'someone-behind', seed: 2, difficulty: 'moving', film: SMALL },
  { preset: 'dim', seed: 2, difficulty: 'dark' },
  { preset: 'dim', seed: 3, difficulty: 'dark', film: { ...SMALL, frogMarked: false } },
  { preset: 'blurred', seed: 2, difficulty: 'blurred', film: SMALL },
  { preset: 'blurred', seed: 3, difficulty: 'blurred', film: { width: 540, height: 960, view: 'whole-body' } },
  { preset: 'ready', seed: 3, difficulty: 'small picture' },
  { preset: 'whole-body', seed: 2, difficulty: 'small picture' },
  { preset: 'whole-body', seed: 3, difficulty: 'small picture', film: { width: 540, height: 960, frogMarked: false } },
  { preset: 'straight', seed: 4, difficulty: 'frog hidden', film: { frogMarked: false } },
  { preset: 'scroll-side', seed: 4, strokes: 4, difficulty: 'frog hidden', film: { ...SMALL, frogMarked: false } },
  { preset: 'bow-side', seed: 4, difficulty: 'frog hidden', film: { ...SMALL, frogMarked: false } },
  { preset: 'straight', seed: 5, strokes: 2, difficulty: 'large or fast film', film: { width: 1920, height: 1080, bitrate: 5_000_000 } },
  { preset: 'short-strokes', seed: 2, strokes: 5, difficulty: 'large or fast film', film: { ...SMALL, framesPerSecond: 60 } },
  hold('hand-front', 2),
  hold('hand-front', 3, 'little-straight'),
  hold('hand-front', 4, 'little-collapsed'),
  hold('hand-front', 5, 'hand-closed'),
  hold('hand-low', 2),
  hold('hand-low', 3, 'thumb-straight'),
  hold('hand-low', 4, 'thumb-bent-back'),
  hold('hand-low', 5, 'little-straight'),
];

export interface AccuracyClip {
  readonly scenario: Scenario;
  readonly difficulty: Difficulty;
}

export function accuracyClips(only?: string): AccuracyClip[] {
  return KINDS.filter(({ preset }) => !only || preset === only).map(({ preset, seed, difficulty, film, strokes, fault }) => {
    const scenario = scenarioOf(preset, seed, { ...film, strokes: (PRESETS[preset]!.strokes ?? scenarioOf(preset, 1).strokes).slice(0, strokes ?? 3) });
    return { scenario: fault ? withFaults(scenario, [{ id: fault, strength: 1 }]) : scenario, difficulty: difficulty ?? 'plain' };
  });
}
