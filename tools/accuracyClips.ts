import { withFaults } from '../synth/presets/faults';
import { PRESETS, scenarioOf } from '../synth/presets/presets';
import type { Scenario } from '../synth/presets/scenario';

/** What makes a clip hard for a tracker, for the table by difficulty. */
export type Difficulty = 'plain' | 'frog hidden' | 'small picture' | 'dark' | 'blurred' | 'moving' | 'large or fast film' | 'another lens' | 'hand from close by';

interface Kind {
  readonly preset: string;
  readonly difficulty?: Difficulty;
  readonly film?: Partial<Pick<Scenario, 'width' | 'height' | 'framesPerSecond' | 'view' | 'frogMarked' | 'noise' | 'bitrate' | 'fieldOfView'>>;
  /** Strokes kept of the preset's. */
  readonly strokes?: number;
  /** A fault played throughout. */
  readonly fault?: string;
}

const SMALL = { width: 960, height: 540, bitrate: 1_500_000 } as const;

/** A hold filmed from close by, as the task "bow hold" asks. */
const hold = (view: 'hand-front' | 'hand-low', fault?: string): Kind => ({ preset: view, fault, strokes: 1, difficulty: 'hand from close by', film: SMALL });

/** Seed of the first clip; each that follows has one more, and so an instrument, a bow, a player and slips of the marking hand of its own (of few of them, errors would seem to be the rule). */
const FIRST_SEED = 101;

/** Clips of the accuracy run, shorter than the demo, to render in minutes. New ones go to the end: seeds are counted. */
const KINDS: readonly Kind[] = [
  { preset: 'straight' },
  { preset: 'straight', film: SMALL },
  { preset: 'arc-to-fingerboard' },
  { preset: 'arc-to-fingerboard', film: SMALL },
  { preset: 'tip-to-player', film: SMALL },
  { preset: 'at-bridge', film: SMALL },
  { preset: 'crossings', strokes: 4 },
  { preset: 'crossings', strokes: 4, film: SMALL },
  { preset: 'scroll-side', strokes: 4 },
  { preset: 'scroll-side', strokes: 4, film: SMALL },
  { preset: 'bow-side' },
  { preset: 'bow-side', film: SMALL },
  { preset: 'half-size' },
  { preset: 'quarter-size', film: SMALL },
  { preset: 'viola', film: { width: 720, height: 1280 } },
  { preset: 'left-handed', film: SMALL },
  { preset: 'instrument-swings', film: SMALL },
  { preset: 'strong-sway', difficulty: 'moving' },
  { preset: 'strong-sway', difficulty: 'moving', film: { ...SMALL, view: 'scroll-side' } },
  { preset: 'rolling-shutter', difficulty: 'moving', film: SMALL },
  { preset: 'someone-behind', difficulty: 'moving', film: SMALL },
  { preset: 'dim', difficulty: 'dark' },
  { preset: 'dim', difficulty: 'dark', film: { ...SMALL, frogMarked: false } },
  { preset: 'blurred', difficulty: 'blurred', film: SMALL },
  { preset: 'blurred', difficulty: 'blurred', film: { width: 540, height: 960, view: 'whole-body' } },
  { preset: 'ready', difficulty: 'small picture' },
  { preset: 'whole-body', difficulty: 'small picture' },
  { preset: 'whole-body', difficulty: 'small picture', film: { width: 540, height: 960, frogMarked: false } },
  { preset: 'straight', difficulty: 'frog hidden', film: { frogMarked: false } },
  { preset: 'scroll-side', strokes: 4, difficulty: 'frog hidden', film: { ...SMALL, frogMarked: false } },
  { preset: 'bow-side', difficulty: 'frog hidden', film: { ...SMALL, frogMarked: false } },
  { preset: 'straight', strokes: 2, difficulty: 'large or fast film', film: { width: 1920, height: 1080, bitrate: 5_000_000 } },
  { preset: 'short-strokes', strokes: 5, difficulty: 'large or fast film', film: { ...SMALL, framesPerSecond: 60 } },
  hold('hand-front'),
  hold('hand-front', 'little-straight'),
  hold('hand-front', 'little-collapsed'),
  hold('hand-front', 'hand-closed'),
  hold('hand-low'),
  hold('hand-low', 'thumb-straight'),
  hold('hand-low', 'thumb-bent-back'),
  hold('hand-low', 'little-straight'),
  // The wide lens, and one zoomed in by a half, of which nobody says so.
  { preset: 'straight', difficulty: 'another lens', film: { fieldOfView: 102 } },
  { preset: 'scroll-side', strokes: 4, difficulty: 'another lens', film: { ...SMALL, fieldOfView: 46 } },
];

export interface AccuracyClip {
  readonly scenario: Scenario;
  readonly difficulty: Difficulty;
}

/** The clips of the run, or of them those of a preset or with these seeds. */
export function accuracyClips(only: { readonly preset?: string | undefined; readonly seeds?: readonly number[] | undefined } = {}): AccuracyClip[] {
  const seeded = KINDS.map((kind, i) => ({ ...kind, seed: FIRST_SEED + i }));
  return seeded
    .filter(({ preset, seed }) => (!only.preset || preset === only.preset) && (!only.seeds || only.seeds.includes(seed)))
    .map(({ preset, seed, difficulty, film, strokes, fault }) => {
      const scenario = scenarioOf(preset, seed, { ...film, strokes: (PRESETS[preset]!.strokes ?? scenarioOf(preset, 1).strokes).slice(0, strokes ?? 3) });
      return { scenario: fault ? withFaults(scenario, [{ id: fault, strength: 1 }]) : scenario, difficulty: difficulty ?? 'plain' };
    });
}
