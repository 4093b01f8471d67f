import { normal, seededRandom } from '../../src/core/random';
import { GOOD_HOLD, type HoldHabit, type HoldSpec } from '../figure/bowHold';
import type { Scenario } from './scenario';
import type { CameraPlace } from './variety';
import { UNLIKE, variedScenario } from './variety';

/** A player for pictures of the bow hand: as varied as {@link variedScenario} makes them, now and then with hands large or small for the bow. Held at the shoulder. */
export function heldPlayer(seed: number): Scenario {
  const random = seededRandom(seed * 6_151 + 21);
  let from = UNLIKE + seed;
  while (variedScenario(from).family === 'cello') from += 100_000;
  return { ...variedScenario(from), seed, stature: 1000 + 850 * random() };
}

/** The hold in the n-th picture of a player: anything from good to badly wrong in several ways at once. */
export function variedHold(seed: number, n: number): HoldSpec {
  const random = seededRandom(seed * 3_571 + n * 911 + 7);
  const about = (spread: number) => spread * normal(random);
  const among = (least: number, most: number) => least + (most - least) * random();
  const sometimes = (share: number, value: () => number) => (random() < share ? value() : 0);
  // Hands that differ little from a good one, and some that differ a lot.
  const wild = random() < 0.3 ? 1.8 : 1;
  const tip = (along: number, out: number, over: number) => [about(along * wild), about(out * wild), about(over * wild)] as const;
  const habit: HoldHabit = {
    wrist: [about(14 * wild), about(13 * wild), about(12 * wild)],
    aim: [about(9 * wild), about(9 * wild)],
    tilt: about(11 * wild),
    tips: { thumb: tip(7, 4, 4), index: tip(8, 3, 7), middle: tip(7, 3, 7), ring: tip(7, 3, 7), little: tip(9, 4, 5) },
    ...(random() < 0.6 ? { little: { bend: among(-40, 100), dipShare: among(-0.4, 1) } } : {}),
  };
  return {
    ...GOOD_HOLD,
    thumbBend: among(-35, 65),
    littleLift: sometimes(0.2, () => among(0, 35)),
    depth: about(9),
    spacing: 1 + about(0.16),
    // Beside the others or well apart from them: seen along the bow the index finger shows as a sliver only, and what is usual would be guessed.
    indexStretch: sometimes(0.5, () => among(-8, 40)),
    wristRise: sometimes(0.35, () => among(-25, 55)),
    closed: sometimes(0.25, () => among(0, 36)),
    rigid: sometimes(0.2, random),
    habit,
  };
}

/**
 * Where the n-th picture is taken from: anywhere before the player from which a bow hand can be seen, and every other one
 * close, on the thumb's side, where the bow points at the camera and fingers hide one another.
 */
export function variedHandPlace(seed: number, n: number): CameraPlace {
  const random = seededRandom(seed * 9_973 + n * 421 + 13);
  const among = (least: number, most: number) => least + (most - least) * random();
  const fieldOfView = 65 + 6 * normal(random);
  if (n % 2) return { view: 'hand-front', azimuth: among(-95, -25), elevation: among(-46, 2), nearer: among(0.55, 1.2), fieldOfView };
  return { view: 'hand-front', azimuth: among(-110, 60), elevation: among(-48, 40), nearer: Math.exp(among(Math.log(0.28), Math.log(1.2))), fieldOfView };
}
