import { rotationDistance } from '../geometry/rotation';
import { DEGREES } from '../geometry/vec3';
import { AGREEMENT, type FrameLook, isTrusted, type Refusal, TRUST, worthOf } from './outcome';

/** Frames to start from, the best first. */
export type Choice = { readonly starts: readonly FrameLook[] } | { readonly refused: Refusal };

/**
 * Chooses the frames to start from: trusted by itself, and agreeing with other trusted frames about where the instrument
 * is. Never a single frame alone.
 * @param unit pixels of the picture's long side over 960
 */
export function chooseStart(looks: readonly FrameLook[], unit: number): Choice {
  const players = looks.filter((l) => l.player);
  if (players.length < AGREEMENT.frames) return { refused: looks.length > 0 && mean(looks.map((l) => l.light)) < TRUST.light ? 'too-dark' : 'no-player' };
  const trusted = clearIn(players.filter((l) => isTrusted(l, unit))).sort((a, b) => worthOf(b) - worthOf(a));
  if (trusted.length < AGREEMENT.frames) return { refused: whyNot(players, unit) };
  const agreeing = (a: FrameLook) => trusted.filter((b) => agree(a, b)).length;
  // An instrument looks much the same in a mirror; the hands tell.
  if (trusted.filter((l) => l.neckHand === 'right').length > trusted.length / 2) return { refused: 'other-side' };
  // The largest crowd speaks; of it the best frame is taken.
  const crowd = Math.max(...trusted.map(agreeing));
  if (crowd < AGREEMENT.frames || crowd < trusted.length / 2) return { refused: 'disagree' };
  const able = trusted.filter((l) => agreeing(l) >= Math.max(AGREEMENT.frames, crowd - 1));
  // A frame in which the bow was found too needs no mark at all, best with both its ends seen and lying across the picture.
  const rank = (l: FrameLook) => (!l.bow ? 2 : l.bow.frogReckoned ? 1 : 0);
  return { starts: [...able].sort((a, b) => rank(a) - rank(b) || clearness(b) - clearness(a)) };
}

/** Without the frames whose contours are much fainter than those of the others: there the instrument is covered, or laid beside them. */
function clearIn(looks: readonly FrameLook[]): FrameLook[] {
  const clearest = Math.max(...looks.map((l) => l.placed?.edges ?? 0));
  return looks.filter((l) => (l.placed?.edges ?? 1) >= TRUST.besideClearest * clearest);
}

/** A bow that points at the camera is short in the picture, and where its frog is reckoned a pixel then is much of it. */
const clearness = ({ bow }: FrameLook): number => (bow ? bow.sure * Math.hypot(bow.tip[0] - bow.frog[0], bow.tip[1] - bow.frog[1]) : 0);

function agree(a: FrameLook, b: FrameLook): boolean {
  const [p, q] = [a.placed!.pose, b.placed!.pose];
  return rotationDistance(p.rotation, q.rotation) * DEGREES <= AGREEMENT.degrees && Math.abs(Math.log(p.translation[2] / q.translation[2])) <= AGREEMENT.depth;
}

/** The commonest reason why frames with a player are not trusted. */
function whyNot(players: readonly FrameLook[], unit: number): Refusal {
  if (mean(players.map((l) => l.light)) < TRUST.light) return 'too-dark';
  const placed = players.flatMap((l) => l.placed ?? []).filter((p) => p.support >= 0.6 * TRUST.support);
  if (placed.length < players.length / 3) return 'not-found';
  if (median(placed.map((p) => p.length)) < TRUST.length * unit) return 'too-small';
  if (median(placed.map((p) => p.facing)) < 1.3 * TRUST.facing) return 'edge-on';
  return 'not-found';
}

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;
