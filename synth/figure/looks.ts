import { seededRandom } from '../../src/core/random';
import type { Wear } from './body';
import { childlike, growthAt } from './growth';
import { type Face, faceOf, HAIRDOS, type Hairdo } from './head';

const SKIN = [0xe9b898, 0xdba27e, 0xbd8058, 0x8e5b3d, 0xf0c6ac, 0x6b4129] as const;
const HAIR = [0x2b1c12, 0x17110e, 0x7a4e26, 0xb58a4c, 0x4a2f1d, 0x8d4a22] as const;
const DARK_HAIR = [0x17110e, 0x221611] as const;
const CLOTH = [0xa8383c, 0x33688f, 0x4d8a5c, 0x6f548f, 0xc79c38, 0x47505f, 0xe3dccb, 0x2f7f7d, 0xd06a4e] as const;
const TROUSERS = [0x35435f, 0x2b2d33, 0x5f6f85, 0x6b5b46, 0x3d4a3a] as const;
const SHOES = [0x2a2320, 0xb7b1a6, 0x7a2f2c, 0x2d4763] as const;
const IRIS = [0x4a2f1a, 0x6a4a24, 0x3f6a86, 0x55703f, 0x2e2018] as const;
const DARK_IRIS = [0x3a2416, 0x2e2018] as const;
const SECOND = [0xf2ede0, 0x20262e, 0xe0b84a, 0xd9dfe4] as const;

/** Patterns of cloth, in the order the painter knows them. */
export const PATTERNS = ['plain', 'stripes', 'checks', 'dots', 'print'] as const;

/** How one player looks; colours as 0xRRGGBB. */
export interface Looks {
  readonly child: number;
  readonly face: Face;
  readonly skin: number;
  readonly freckles: boolean;
  readonly iris: number;
  readonly hair: number;
  readonly hairdo: Hairdo;
  readonly glasses: boolean;
  readonly wear: Wear;
  readonly jersey: { readonly color: number; readonly second: number; readonly pattern: (typeof PATTERNS)[number] };
  readonly bottom: number;
  readonly shoes: number;
}

/** The looks that belong to a seed; the same seed is the same person at any size. */
export function looksOf(stature: number, seed: number): Looks {
  const random = seededRandom(seed * 211 + 9);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const child = childlike(growthAt(stature).age);
  const skin = pick(SKIN);
  const dark = skin === 0x8e5b3d || skin === 0x6b4129;
  const hairdo = pick(HAIRDOS);
  const girlish = hairdo === 'bob' || hairdo === 'fringe-bob' || hairdo === 'ponytail' || hairdo === 'bun';
  const bottom = girlish && random() < 0.4 ? 'skirt' : random() < 0.2 ? 'shorts' : 'trousers';
  const jersey = pick(CLOTH);
  return {
    child,
    face: faceOf(random, child),
    skin,
    freckles: !dark && random() < 0.3,
    iris: dark ? pick(DARK_IRIS) : pick(IRIS),
    hair: dark ? pick(DARK_HAIR) : pick(HAIR),
    hairdo,
    glasses: random() < 0.2,
    wear: { sleeves: random() < 0.4 ? 'long' : 'short', bottom, loose: 7 + 7 * random() },
    jersey: { color: jersey, second: pick(SECOND), pattern: random() < 0.35 ? 'plain' : pick(PATTERNS) },
    bottom: bottom === 'skirt' ? pick(CLOTH) : pick(TROUSERS),
    shoes: pick(SHOES),
  };
}
