import type { Family } from '../../src/core/instrument/family';
import { normal, seededRandom } from '../../src/core/random';
import { GOOD_HOLD } from '../figure/bowHold';
import { GOOD_POSTURE } from '../figure/posture';
import type { Course } from '../motion/course';
import { scenarioOf } from './presets';
import type { Scenario, View } from './scenario';

/** Where a picture is taken from: a view of the filming guide, moved about by angles (degrees) and a factor of distance. */
export interface CameraPlace {
  readonly view: View;
  readonly azimuth: number;
  readonly elevation: number;
  readonly nearer: number;
  readonly fieldOfView: number;
}

const SIZES: Record<'violin' | 'viola' | 'cello', readonly string[]> = {
  violin: ['4/4', '4/4', '4/4', '3/4', '3/4', '1/2', '1/2', '1/4', '1/8'],
  viola: ['16"', '15"', '14"'],
  cello: ['4/4', '3/4', '1/2'],
};

/** From this seed on instruments are as unlike as they come, and violas and cellos more frequent: they are the harder ones. */
export const UNLIKE = 20_000;

/**
 * A player unlike any of the presets, for a network to learn from: size, instrument, posture, bowing, room and light
 * all by seed, and far wider than the demo's.
 */
export function variedScenario(seed: number): Scenario {
  const random = seededRandom(seed * 104_729 + 1);
  const about = (middle: number, spread: number) => middle + spread * normal(random);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const chance = random();
  const unlike = seed >= UNLIKE;
  const family: Family = chance < (unlike ? 0.55 : 0.8) ? 'violin' : chance < (unlike ? 0.72 : 0.9) ? 'viola' : 'cello';
  const cello = family === 'cello';
  const slope = about(0, 5);
  const middle = about(0, 4);
  const skew: Course = [middle - slope, middle, middle + slope, middle + 2 * slope];
  const place = 0.15 + 0.7 * random();
  return scenarioOf(cello ? 'cello' : 'straight', 1, {
    name: 'varied',
    seed,
    family,
    ...(unlike ? { unlike } : {}),
    size: pick(SIZES[family as keyof typeof SIZES]),
    skew,
    contact: [place, place, place, Math.min(0.95, Math.max(0.05, place + about(0, 0.12)))],
    heading: cello ? about(163, 8) : about(40, 16),
    pitch: cello ? about(60, 6) : about(2, 10),
    roll: cello ? about(0, 8) : about(22, 11),
    sway: 2,
    strokes: Array.from({ length: 8 }, (_, i) => ({
      string: Math.floor(random() * 4),
      direction: i % 2 === 0 ? 'down' : 'up',
      seconds: 1,
      part: [0.03 + 0.3 * random(), 0.6 + 0.37 * random()],
      rest: 0.1,
      ...(random() < 0.6 ? { finger: 1 + Math.floor(random() * 4) } : {}),
    })),
    light: 0.5 + 0.9 * random(),
    backLight: random() < 0.2 ? random() * 0.8 : 0,
    noise: 1,
    posture: {
      ...GOOD_POSTURE,
      hold: GOOD_HOLD,
      elbowLevel: about(0, 7),
      shoulderLift: random() < 0.2 ? random() : 0,
      lean: about(0, 3),
      slouch: Math.max(0, about(0, 4)),
      headTilt: about(0, 6),
      headTurn: about(0, 8),
      leftElbowIn: random() < 0.3 ? random() : 0,
      stance: 0.1 + 0.12 * random(),
    },
  });
}

const VIEWS: readonly View[] = ['front-above', 'front-above', 'front-above', 'scroll-side', 'scroll-side', 'bow-side', 'bow-side', 'whole-body', 'whole-body', 'profile'];

/** A place of the phone for the n-th picture of a varied player. */
export function variedPlace(seed: number, n: number): CameraPlace {
  const random = seededRandom(seed * 7_907 + n * 613 + 3);
  return {
    view: VIEWS[Math.floor(random() * VIEWS.length)]!,
    azimuth: 11 * normal(random),
    elevation: 8 * normal(random),
    nearer: Math.exp(0.12 * normal(random)),
    fieldOfView: 65 + 6 * normal(random),
  };
}
