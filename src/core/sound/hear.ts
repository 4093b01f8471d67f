import type { Family } from '../instrument/family';
import { median } from '../statistics';
import { SPEAKS_AFTER } from './alignSound';
import { atHalfRate } from './halfRate';
import { floorOf } from './harmonics';
import type { Heard, HeardNote } from './heard';
import { onsetOf, ownHarmonics, strengthAt } from './onset';
import { OPEN_STRING_HZ } from './openStrings';
import { type PitchPath, type PitchRun, pitchPath, runsOf } from './pitchPath';
import { dipsIn } from './restrikes';
import { secondStrings } from './secondString';
import { HOP, type Spectra, spectraOf } from './spectra';
import { startNoise } from './startNoise';
import { toneOf } from './tone';
import { type ClearPitch, clearPitches, tuningOf } from './tuning';

/** Windows that tell neighbouring strings apart, and short ones for when, in periods of the lowest open string (ours). */
const LONG_PERIODS = 15;
const SHORT_PERIODS = 8;
/** Shorter stretches of a pitch are slips (seconds, ours). */
const LEAST_NOTE = 0.07;
/** An open neighbour heard for less than this, while the note beside it goes on, is a second string (seconds, ours). */
const LONGEST_SLIP = 0.5;
/** It goes on when its own harmonics keep so much of their strength (ours). */
const GOES_ON = 0.35;
/** A dip of all harmonics by itself tells a new bow (dB, ours, measured on sampled strings). */
const DIP = 5.5;
/** Where the picture shows a change of bow, so much is enough (dB, ours). */
const DIP_AT_TURN = 1.5;
/** So near a change of bow in the picture (seconds, ours). */
const NEAR_TURN = 0.1;

/** A note's start is compared with no more than so much of what follows on its pitch (seconds, ours). */
const STARTED = 0.8;

/** Samples a second that hold all that is asked of a string (ours). */
const ENOUGH_RATE = 20_000;

export interface HearOptions {
  /** Times (s, of the sound) at which the picture shows a change of bow: a new note begins there, at the dip if there is one. */
  readonly turns?: readonly number[] | undefined;
}

/** The sound of a clip once it is taken apart, for being read again when the picture tells more. */
export interface Listening {
  readonly family: Family;
  readonly cents: number;
  readonly cents_u: number;
  readonly long: Spectra;
  readonly floor: ReturnType<typeof floorOf>;
  readonly short: Spectra;
  readonly shortFloor: ReturnType<typeof floorOf>;
  readonly clear: readonly ClearPitch[];
  readonly path: PitchPath;
}

/**
 * Takes a sound apart: tuning, spectra and the course of pitch. `given` mono, -1..1, `givenRate` samples a second.
 * Undefined where no note of the instrument is heard.
 */
export function listen(given: Float32Array, givenRate: number, family: Family): Listening | undefined {
  let [samples, rate] = [given, givenRate];
  while (rate >= 2 * ENOUGH_RATE) [samples, rate] = [atHalfRate(samples), rate / 2];
  const clear = clearPitches(samples, rate, family);
  const tuning = tuningOf(clear, family);
  if (!tuning) return undefined;
  const period = 1 / OPEN_STRING_HZ[family][0]!;
  const long = spectraOf(samples, rate, LONG_PERIODS * period);
  const short = spectraOf(samples, rate, SHORT_PERIODS * period);
  const floor = floorOf(long);
  const path = pitchPath(long, floor, family, tuning.cents);
  return { family, cents: tuning.cents, cents_u: tuning.u, long, floor, short, shortFloor: floorOf(short), clear, path };
}

/** Notes and second strings of a sound. */
export function hear(listening: Listening, { turns = [] }: HearOptions = {}): Heard {
  const { path, long, short, clear, cents, family } = listening;
  const hzOf = (pitch: number) => path.pitches[pitch]!.hz * 2 ** (cents / 1200);
  const runs = withoutSlips(runsOf(path), listening);
  const notes: HeardNote[] = [];
  runs.forEach((run, i) => {
    const before = runs[i - 1];
    const touching = before && run.first - before.last <= Math.round(0.15 / HOP) ? before : undefined;
    const hz = hzOf(run.pitch);
    const from = touching?.pitch === run.pitch ? run.first * HOP : onsetOf(short, run.first * HOP, hz, touching && hzOf(touching.pitch));
    const next = runs[i + 1];
    const to = next && next.first - run.last <= 3 ? onsetOf(short, next.first * HOP, hzOf(next.pitch), hz) : run.last * HOP;
    const starts = [from, ...newBows(listening, run, hz, turns).filter((t) => t > from + 0.1 && t < to - 0.15)];
    starts.forEach((start, k) => {
      const end = Math.max(start + HOP, starts[k + 1] ?? to);
      notes.push(noteOf(listening, run, start, end, to, k > 0));
    });
  });
  return { cents, cents_u: listening.cents_u, notes, seconds: secondStrings(long, listening.floor, family, cents, notes) };

  function noteOf({ path: p }: Listening, run: PitchRun, from: number, to: number, pitchEnds: number, again: boolean): HeardNote {
    const { string, stop } = p.pitches[run.pitch]!;
    const nominal = hzOf(run.pitch);
    const near = clear.filter((c) => c.t > from + 0.03 && c.t < to - 0.03).map((c) => 1200 * Math.log2(c.hz / nominal));
    const own = near.filter((c) => Math.abs(c) < 70);
    const first = Math.max(0, Math.round(from / HOP));
    const last = Math.min(path.at.length - 1, Math.round(to / HOP));
    const leads = Array.from(path.lead.subarray(first, last + 1));
    const confidence = Math.min(1, Math.max(0, median(leads) / 1.2));
    const hz = own.length > 0 ? nominal * 2 ** (median(own) / 1200) : nominal;
    // A crunch may part a note in two: what follows on its pitch is the same note.
    const crunch = startNoise(short, listening.shortFloor, nominal, from, Math.max(to, Math.min(pitchEnds, from + STARTED)));
    return { from, to, string, stop, hz, confidence, again, tone: { ...toneOf(long, first, last, nominal, own), ...(crunch === undefined ? {} : { startNoise: crunch }) } };
  }
}

/** Times within a long pitch at which a new bow begins: deep dips, and every turn the picture shows. */
function newBows({ short }: Listening, run: PitchRun, hz: number, turns: readonly number[]): number[] {
  const dips = dipsIn(short, run.first, run.last, hz, DIP_AT_TURN);
  const atTurns = turns
    .filter((t) => t > run.first * HOP && t < run.last * HOP)
    .map((turn) => {
      const near = dips.filter((d) => Math.abs(d.t - turn) <= NEAR_TURN);
      return near.length > 0 ? near.reduce((a, b) => (b.depth > a.depth ? b : a)).t : turn + SPEAKS_AFTER;
    });
  const deep = dips.filter((d) => d.depth >= DIP && atTurns.every((t) => Math.abs(t - d.t) > NEAR_TURN)).map((d) => d.t);
  return [...atTurns, ...deep].sort((a, b) => a - b);
}

/**
 * Runs without slips: an open neighbour heard for a moment, beneath which the note before (or after) goes on, is a
 * second string, not a note; what is too short by itself goes.
 */
function withoutSlips(runs: readonly PitchRun[], listening: Listening): PitchRun[] {
  const out = [...runs];
  for (let i = 0; i < out.length; i++) {
    const [a, b, c] = [out[i - 1], out[i]!, out[i + 1]];
    if ((b.last - b.first) * HOP > LONGEST_SLIP) continue;
    const keeper = [a, c].find((other) => other && touching(other, b) && neighbourOpen(listening.path, other, b) && goesOnBeneath(listening, other, b));
    if (!keeper) continue;
    const merged = { pitch: keeper.pitch, first: Math.min(keeper.first, b.first), last: Math.max(keeper.last, b.last) };
    out.splice(keeper === a ? i - 1 : i, 2, merged);
    i = Math.max(-1, i - 2);
  }
  // What touches its like is one with it.
  return out
    .filter((r) => (r.last - r.first) * HOP >= LEAST_NOTE)
    .reduce<PitchRun[]>((list, run) => {
      const before = list[list.length - 1];
      if (before && before.pitch === run.pitch && run.first - before.last <= 12) list[list.length - 1] = { ...before, last: run.last };
      else list.push(run);
      return list;
    }, []);
}

const touching = (a: PitchRun, b: PitchRun) => (a.first < b.first ? b.first - a.last : a.first - b.last) <= 3;

const neighbourOpen = (path: PitchPath, of: PitchRun, b: PitchRun) =>
  path.pitches[b.pitch]!.stop === 0 && Math.abs(path.pitches[b.pitch]!.string - path.pitches[of.pitch]!.string) === 1;

/** Whether the harmonics that only `note` has are heard through `slip` nearly as through itself. */
function goesOnBeneath({ path, long, cents }: Listening, note: PitchRun, slip: PitchRun): boolean {
  const hz = (pitch: number) => path.pitches[pitch]!.hz * 2 ** (cents / 1200);
  const own = ownHarmonics(long, hz(note.pitch), hz(slip.pitch));
  const strength = (first: number, last: number) => median(Array.from({ length: Math.max(1, last - first + 1) }, (_, k) => strengthAt(long, first + k, own)));
  const itself = note.first < slip.first ? strength(Math.max(note.first, note.last - 20), note.last - 5) : strength(note.first + 5, Math.min(note.last, note.first + 20));
  return strength(slip.first, slip.last) > GOES_ON * itself;
}
