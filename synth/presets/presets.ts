import { seededRandom } from '../../src/core/random';
import { GOOD_POSTURE } from '../figure/posture';
import type { Scenario, StrokeSpec, View } from './scenario';

const strokes = (list: readonly [string: number, seconds: number][], part: readonly [number, number], rest = 0.04): StrokeSpec[] =>
  list.map(([string, seconds], i) => ({ string, direction: i % 2 === 0 ? 'down' : 'up', seconds, part, rest }));

const longBows = (string: number, count: number, seconds = 1.6, part: readonly [number, number] = [0.05, 0.92]) =>
  strokes(
    Array.from({ length: count }, () => [string, seconds]),
    part,
  );

const BASE: Omit<Scenario, 'name' | 'seed'> = {
  family: 'violin',
  size: '4/4',
  strokes: longBows(2, 5),
  skew: [0.5, 0, 0.5, 1],
  contact: [0.5, 0.48, 0.5, 0.52],
  contactJump: 0,
  contactStray: 0,
  levelOffset: [0, 0, 0, 0],
  wander: 1,
  sway: 0.6,
  instrumentSwing: 0,
  heading: 42,
  pitch: 3,
  roll: 22,
  view: 'front-above',
  width: 1280,
  height: 720,
  framesPerSecond: 25,
  fieldOfView: 65,
  shake: 0.6,
  noise: 2.2,
  light: 1,
  backLight: 0,
  exposureDrift: 0.02,
  rollingShutter: 0,
  walker: false,
  bitrate: 2_400_000,
  soundLate: 0.02,
  tuneCents: 0,
  echo: 0.3,
  leftHanded: false,
  frogMarked: true,
  posture: GOOD_POSTURE,
  faults: [],
};

/** Named kinds of playing; each is varied further by its seed. */
export const PRESETS: Record<string, Partial<Scenario>> = {
  straight: {},
  'arc-to-fingerboard': { skew: [-4, -1, 9, 20], contact: [0.45, 0.45, 0.62, 0.84], sway: 1 },
  'tip-to-player': { skew: [0, -3, -10, -16], contact: [0.5, 0.5, 0.6, 0.72] },
  'at-bridge': { contact: [0.2, 0.16, 0.15, 0.18] },
  crossings: {
    strokes: strokes(
      [
        [0, 1.1],
        [1, 1.1],
        [2, 1.1],
        [3, 1.1],
        [2, 1.1],
        [1, 1.1],
        [0, 1.1],
      ],
      [0.05, 0.9],
    ),
    view: 'front-above',
  },
  'scroll-side': {
    strokes: strokes(
      [
        [0, 1.1],
        [1, 1.1],
        [2, 1.1],
        [3, 1.1],
        [2, 1.1],
        [1, 1.1],
      ],
      [0.05, 0.9],
    ),
    view: 'scroll-side',
  },
  'bow-side': { view: 'bow-side', skew: [1, 1, 2, 3] },
  'instrument-swings': { skew: [0, 1, 2, 2], instrumentSwing: 5, sway: 0.8 },
  'short-strokes': { strokes: longBows(1, 14, 0.5, [0.35, 0.65]) },
  'half-size': { size: '1/2', strokes: longBows(1, 5), noise: 3 },
  'quarter-size': { size: '1/4', strokes: longBows(2, 4, 1.4) },
  viola: { family: 'viola', size: '16"', strokes: longBows(1, 4, 1.9) },
  cello: { family: 'cello', size: '3/4', strokes: longBows(2, 4, 1.6), heading: 163, pitch: 60, roll: 0, sway: 0.4 },
  blurred: { defocus: 1.5, strokes: longBows(2, 5) },
  dim: { light: 0.45, noise: 6, strokes: longBows(2, 5) },
  'back-light': { backLight: 0.8, strokes: longBows(2, 4) },
  'rolling-shutter': { rollingShutter: 0.025, shake: 1.6, strokes: longBows(2, 4, 1.2) },
  'someone-behind': { walker: true, strokes: longBows(1, 4, 1.4) },
  'left-handed': { leftHanded: true, strokes: longBows(1, 4, 1.4) },
  'strong-sway': { sway: 2.2, shake: 1.5, strokes: longBows(2, 4, 1.4) },
  profile: { view: 'profile', width: 720, height: 1280, strokes: longBows(1, 3) },
  'hand-front': { view: 'hand-front', strokes: longBows(1, 2, 2) },
  'hand-low': { view: 'hand-low', strokes: longBows(1, 2, 2) },
  'hands-free': { posture: { ...GOOD_POSTURE, leftHandAway: 1 }, view: 'whole-body', width: 720, height: 1280, strokes: longBows(2, 3, 1.2) },
  ready: {
    ready: { rest: 1.8, raise: 1, hold: 2.6, place: 1.2, handsFree: true },
    view: 'whole-body',
    width: 720,
    height: 1280,
    strokes: longBows(2, 2, 1.2),
  },
  'left-hand': { view: 'left-hand', strokes: longBows(1, 2, 2) },
  'whole-body': {
    view: 'whole-body',
    width: 720,
    height: 1280,
    strokes: strokes(
      [
        [1, 1.4],
        [2, 1.4],
        [1, 1.4],
        [2, 1.4],
      ],
      [0.05, 0.9],
    ),
  },
};

/** The scenario of a preset: seed 1 is the preset itself, other seeds vary it a little. @throws RangeError for an unknown name. */
export function scenarioOf(preset: string, seed: number, overrides: Partial<Scenario> = {}): Scenario {
  const kind = PRESETS[preset];
  if (!kind) throw new RangeError(`There is no preset "${preset}". Known: ${Object.keys(PRESETS).join(', ')}.`);
  const scenario: Scenario = { ...BASE, ...kind, name: preset, seed, ...overrides };
  if (seed === 1) return scenario;
  const random = seededRandom(seed * 7919);
  const about = (middle: number, spread: number) => middle + (2 * random() - 1) * spread;
  return {
    ...scenario,
    // A seated player's cello leaves less freedom.
    heading: about(scenario.heading, scenario.family === 'cello' ? 4 : 10),
    pitch: about(scenario.pitch, scenario.family === 'cello' ? 4 : 6),
    roll: about(scenario.roll, scenario.family === 'cello' ? 4 : 8),
    fieldOfView: about(scenario.fieldOfView, 4),
    sway: scenario.sway * about(1, 0.5),
    shake: scenario.shake * about(1, 0.6),
    wander: scenario.wander * about(1, 0.4),
    light: scenario.light * about(1, 0.2),
    noise: scenario.noise * about(1, 0.4),
    soundLate: about(0, 0.14),
    tuneCents: about(0, 35),
    echo: about(0.4, 0.4),
  };
}

/** The picture a phone takes from a place: upright where the whole player is to be seen. */
export const pictureOf = (view: View): Pick<Scenario, 'width' | 'height'> =>
  view === 'whole-body' || view === 'profile' ? { width: 720, height: 1280 } : { width: 1280, height: 720 };

export const VIEWS: readonly View[] = ['front-above', 'scroll-side', 'bow-side', 'whole-body', 'profile', 'hand-front', 'hand-low', 'left-hand'];
