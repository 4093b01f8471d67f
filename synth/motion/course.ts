/** A course of a number along the bow: values at the frog, a third, two thirds and the tip, joined smoothly. */
export type Course = readonly [frog: number, third: number, twoThirds: number, tip: number];

/** Value of a course at a bow position 0..1: a smooth curve through its four values. */
export function courseAt(course: Course, position: number): number {
  const x = Math.min(1, Math.max(0, position)) * 3;
  const i = Math.min(2, Math.floor(x));
  const t = x - i;
  const at = (k: number) => course[Math.min(3, Math.max(0, k))]!;
  const m0 = (at(i + 1) - at(i - 1)) / 2;
  const m1 = (at(i + 2) - at(i)) / 2;
  const t2 = t * t;
  const t3 = t2 * t;
  return (2 * t3 - 3 * t2 + 1) * at(i) + (t3 - 2 * t2 + t) * m0 + (-2 * t3 + 3 * t2) * at(i + 1) + (t3 - t2) * m1;
}

/** Share of a minimum-jerk movement done after a share of its time (Flash and Hogan 1985, cited from memory). */
export function minimumJerk(t: number): number {
  const x = Math.min(1, Math.max(0, t));
  return x * x * x * (10 - 15 * x + 6 * x * x);
}

/** Where a squeezed stroke has used up nearly all its way, as shares of its way and time; and the part of way and time in which a stalling one creeps (ours). */
const SQUEEZE = { way: 0.95, time: 0.6 } as const;
const STALL = { way: [0.46, 0.52], time: [0.38, 0.62] } as const;

/**
 * Share of a stroke's way done after a share of its time: a minimum-jerk movement, which `squeezed` (0..1) spends too
 * early, so that the rest creeps, and which `stalls` (0..1) in the middle.
 */
export function strokeWay(done: number, squeezed = 0, stalls = 0): number {
  const plain = minimumJerk(done);
  const x = Math.min(1, Math.max(0, done));
  const early = x < SQUEEZE.time ? SQUEEZE.way * minimumJerk(x / SQUEEZE.time) : SQUEEZE.way + ((1 - SQUEEZE.way) * (x - SQUEEZE.time)) / (1 - SQUEEZE.time);
  const [w0, w1] = STALL.way;
  const [t0, t1] = STALL.time;
  const stalled = x < t0 ? w0 * minimumJerk(x / t0) : x < t1 ? w0 + ((w1 - w0) * (x - t0)) / (t1 - t0) : w1 + (1 - w1) * minimumJerk((x - t1) / (1 - t1));
  return plain + squeezed * (early - plain) + stalls * (stalled - plain);
}

/** A slow, repeatable wander about zero with deviation near 1: a sum of sines of random phase. */
export function wander(random: () => number, lowHz: number, highHz: number): (t: number) => number {
  const parts = Array.from({ length: 4 }, () => ({ hz: lowHz + random() * (highHz - lowHz), phase: random() * 2 * Math.PI }));
  return (t) => parts.reduce((sum, p) => sum + Math.sin(2 * Math.PI * p.hz * t + p.phase), 0) / Math.SQRT2;
}
