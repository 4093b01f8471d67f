import { normal, seededRandom } from '../../src/core/random';

/** A swelling of the outline about `u`, as far as `reach` (1 sigma): `wider` is a share of the half width, `along` a shift toward the scroll. Lengths in mm of a full-size violin. */
export interface Swelling {
  readonly u: number;
  readonly reach: number;
  readonly wider: number;
  readonly along: number;
}

/** How one instrument and its bow look where no measure tells; colours as CSS or 0xRRGGBB, lengths in mm of a full-size violin. */
export interface InstrumentLooks {
  readonly plate: {
    readonly hue: number;
    readonly saturation: number;
    readonly light: number;
    readonly grain: number;
    /** 0 .. 1: darker toward the edge. */
    readonly sunburst: number;
  };
  readonly outline: readonly Swelling[];
  /** The inlaid line along the edge; some have none. */
  readonly purfling: { readonly color: string; readonly width: number; readonly inset: number } | undefined;
  /** The light edge of the plate beyond its varnish. */
  readonly edge: number;
  /** `width` against the usual, `along` toward the scroll, `apart` from the middle, `turn` in radians. */
  readonly soundHoles: { readonly color: string; readonly width: number; readonly along: number; readonly apart: number; readonly turn: number };
  readonly sides: { readonly hue: number; readonly light: number };
  readonly neck: number;
  readonly board: number;
  /** Tapes across the fingerboard that show where fingers go: share of the string from the nut, colour, width. */
  readonly tapes: readonly { readonly at: number; readonly color: number; readonly width: number }[];
  /** Pegs, button and chin rest. */
  readonly fittings: number;
  /** `wide` against the usual; fine tuners from the highest string on. */
  readonly tailpiece: { readonly color: number; readonly wide: number; readonly tuners: number };
  readonly bridge: number;
  /** Its middle on the plate and over its edge; `size` against the usual. */
  readonly chinRest: { readonly u: number; readonly y: number; readonly size: number; readonly lift: number } | undefined;
  readonly shoulderRest: boolean;
  /** Size of the scroll's rolls, and of the pegs, against the usual. */
  readonly scroll: { readonly size: number; readonly wide: number };
  readonly pegs: number;
  readonly bow: { readonly stick: number; readonly frog: number; readonly hair: string; readonly thick: number };
}

/** Reddish brown with black fittings, as most school instruments. */
export function plainLooks(seed: number): InstrumentLooks {
  const random = seededRandom(seed * 13 + 8);
  return {
    plate: { hue: 14 + random() * 16, saturation: 72, light: 30 + random() * 14, grain: 1, sunburst: 0 },
    outline: [],
    purfling: { color: '#1c0d06', width: 5, inset: 4.5 },
    edge: 0x9a6a38,
    soundHoles: { color: '#120805', width: 1, along: 0, apart: 0, turn: 0 },
    sides: { hue: 20, light: 30 },
    neck: 0x9a6a38,
    board: 0x1b1613,
    tapes: [],
    fittings: 0x1b1613,
    tailpiece: { color: 0x1b1613, wide: 1, tuners: 4 },
    bridge: 0xd9b37a,
    chinRest: { u: -118, y: 52, size: 1, lift: 22 },
    shoulderRest: true,
    scroll: { size: 1, wide: 1 },
    pegs: 1,
    bow: { stick: 0x5b2a14, frog: 0x17120f, hair: '#efeadb', thick: 1 },
  };
}

const DARK = [0x1b1613, 0x2a1c14, 0x101013, 0x3a3230] as const;
const WOODS = [0x4a2413, 0x6b3a1c, 0x8a5a2c, 0xb98a4c, 0x3a1c10] as const;
const NECKS = [0x9a6a38, 0xc79a5e, 0x7a4a24, 0x5b3016, 0xd9b98a] as const;
const TAPES = [0xf2f0e8, 0xd8433a, 0xe8c53a, 0x3a7ad0, 0x4aa05a, 0x222222] as const;
/** Where the first, second, third and fourth finger usually go (share of the string from the nut; whole and half tones). */
const STOPS = [0.109, 0.206, 0.251, 0.333] as const;
const HAIRS = ['#efeadb', '#f7f5ee', '#ddd2b4', '#e6dfd2', '#c9bfa8'] as const;

/**
 * An instrument as unlike the next as they come: makers' outlines, varnish from straw to nearly black, other fittings,
 * finger tapes. For a network to learn what all of them have in common.
 */
export function unlikeLooks(seed: number): InstrumentLooks {
  const random = seededRandom(seed * 23 + 17);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const between = (low: number, high: number) => low + (high - low) * random();
  const about = (middle: number, spread: number) => middle + spread * normal(random);
  const hue = random() < 0.85 ? between(8, 46) : between(0, 360);
  const light = random() < 0.2 ? between(9, 20) : between(22, 62);
  const fittings = random() < 0.6 ? pick(DARK) : pick(WOODS);
  const dark = random() < 0.8;
  return {
    plate: { hue, saturation: between(18, 90), light, grain: random() < 0.3 ? 0.1 : between(0.2, 1.1), sunburst: random() < 0.35 ? between(0.2, 0.75) : 0 },
    // Bouts, waist and the corners' places differ from maker to maker by a few per cent (common practice, no source).
    outline: [-150, -95, -30, 10, 50, 95, 150, 185].map((u) => ({ u, reach: between(25, 60), wider: 0.022 * normal(random), along: 2.2 * normal(random) })),
    purfling:
      random() < 0.2
        ? undefined
        : { color: random() < 0.75 ? `hsl(${hue} 40% ${between(3, 14)}%)` : `hsl(${hue} 30% ${light * between(0.4, 0.7)}%)`, width: between(2, 9), inset: between(3, 7) },
    edge: random() < 0.6 ? pick(NECKS) : pick(WOODS),
    soundHoles: { color: random() < 0.8 ? '#120805' : `hsl(${hue} 40% ${light * 0.4}%)`, width: between(0.55, 1.35), along: about(0, 4), apart: about(0, 4), turn: about(0, 0.08) },
    sides: { hue: hue + about(0, 6), light: Math.max(10, Math.min(60, light + about(0, 9))) },
    neck: pick(NECKS),
    board: random() < 0.75 ? pick(DARK) : pick(WOODS),
    tapes: random() < 0.4 ? STOPS.slice(0, 1 + Math.floor(random() * 4)).map((at) => ({ at, color: pick(TAPES), width: between(1.5, 5) })) : [],
    fittings,
    tailpiece: { color: dark ? pick(DARK) : pick(WOODS), wide: between(0.75, 1.25), tuners: pick([0, 1, 1, 4, 4]) },
    bridge: pick([0xd9b37a, 0xe6cfa2, 0xc08a4a, 0x8a5a2c, 0xf0e2c4]),
    chinRest: random() < 0.12 ? undefined : { u: about(-120, 6), y: random() < 0.25 ? about(10, 10) : about(54, 8), size: between(0.75, 1.25), lift: between(18, 28) },
    shoulderRest: random() < 0.65,
    scroll: { size: between(0.65, 1.2), wide: between(0.6, 1.3) },
    pegs: between(0.75, 1.25),
    bow: {
      stick: random() < 0.75 ? pick(WOODS) : pick(DARK),
      frog: random() < 0.8 ? pick(DARK) : pick([0xf0ece0, 0x6b3a1c]),
      hair: random() < 0.04 ? '#26221e' : pick(HAIRS),
      thick: between(0.85, 1.35),
    },
  };
}

/** The place of a point of the plain outline (u along, y across, mm of a full-size violin) on this maker's. */
export function swollen(outline: readonly Swelling[], u: number, y: number): readonly [u: number, y: number] {
  let wider = 1;
  let along = 0;
  for (const s of outline) {
    const near = Math.exp(-0.5 * ((u - s.u) / s.reach) ** 2);
    wider += s.wider * near;
    along += s.along * near;
  }
  return [u + along, y * wider];
}
