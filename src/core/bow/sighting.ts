import type { Vec2 } from '../geometry/vec3';

/** What the picture shows of the bow in one frame. Pixels. */
export interface BowSighting {
  /** The image line of the hair, as two places on it, and how far each may be off sideways (1 sigma). */
  readonly line:
    | {
        readonly a: Vec2;
        readonly b: Vec2;
        readonly sigmaA: number;
        readonly sigmaB: number;
        /** Places of a and b along the hair, 0 frog .. 1 tip. */
        readonly shareA: number;
        readonly shareB: number;
      }
    | undefined;
  /** Ends of the hair where they were recognised; only their place along the line is used. */
  readonly frog: EndSighting | undefined;
  readonly tip: EndSighting | undefined;
  /** How far the line may be off sideways (px, 1 sigma) at frog and tip by an error that all frames followed from one mark share. */
  readonly zero?: { readonly frog: number; readonly tip: number };
  /** Where the middle of the hair was seen in this very frame. */
  readonly hair?: HairBeside;
  /** False where an end was first placed by guess: then the seen length says nothing. */
  readonly lengthKnown?: boolean;
  /** Mean likeness of the cross sections to the bow's, 0..1. */
  readonly score: number;
}

/** An end of the hair as it was recognised in one frame. Pixels. */
export interface EndSighting {
  readonly point: Vec2;
  /** How far off it may be along the bow (1 sigma) by all that can be wrong, */
  readonly sigma: number;
  /** and by what is not the same in all frames followed from one mark; absent where all is its own. */
  readonly own?: number;
  /** How far off it may be in all of them because it was placed by guess (1 sigma). */
  readonly guess?: number;
  /** By how much it is seen nearer the tip for each mm that what is recognised lies farther from the camera than the hair. */
  readonly parallax?: number;
}

/** The middle of the hair beside a bow's line: how far (px, + to the right of frog to tip as seen) at frog and tip. */
export interface HairBeside {
  readonly atFrog: number;
  readonly atTip: number;
  /** How far off that may be in one frame (px, 1 sigma), */
  readonly sigmaFrog: number;
  readonly sigmaTip: number;
  /** and in all alike. */
  readonly shared: number;
}

/** Nothing seen. */
export const NO_BOW: BowSighting = { line: undefined, frog: undefined, tip: undefined, score: 0 };

/** Both ends of the hair in the picture, px. */
export interface HairEnds {
  readonly frog: Vec2;
  readonly tip: Vec2;
}

/** How far apart two bows lie in the picture, px: the further of their ends. */
export const endsApart = (a: HairEnds, b: HairEnds): number => Math.max(...(['frog', 'tip'] as const).map((end) => Math.hypot(a[end][0] - b[end][0], a[end][1] - b[end][1])));

/** Both ends of the hair by the seen line; undefined where the bow was not seen. */
export function hairEndsOf({ line }: BowSighting): HairEnds | undefined {
  if (!line) return undefined;
  const at = (share: number): Vec2 => {
    const k = (share - line.shareA) / (line.shareB - line.shareA);
    return [line.a[0] + k * (line.b[0] - line.a[0]), line.a[1] + k * (line.b[1] - line.a[1])];
  };
  return { frog: at(0), tip: at(1) };
}

/** The sighting with its line moved sideways. */
export function moveSideways(sighting: BowSighting, atFrog: number, atTip: number): BowSighting {
  const line = sighting.line;
  if (!line) return sighting;
  const n = Math.hypot(line.b[0] - line.a[0], line.b[1] - line.a[1]) || 1;
  const side: Vec2 = [-(line.b[1] - line.a[1]) / n, (line.b[0] - line.a[0]) / n];
  const moved = (p: Vec2, share: number): Vec2 => {
    const o = atFrog + (atTip - atFrog) * share;
    return [p[0] + side[0] * o, p[1] + side[1] * o];
  };
  return { ...sighting, line: { ...line, a: moved(line.a, line.shareA), b: moved(line.b, line.shareB) } };
}
