import { readFileSync } from 'node:fs';
import type { Browser } from 'playwright';
import { parseMarks } from '../src/core/formats/marks';
import { insidePicture, project } from '../src/core/geometry/camera';
import { toOuter } from '../src/core/geometry/pose';
import { INSTRUMENT_LANDMARKS } from '../src/core/instrument/landmarks';
import type { Refusal } from '../src/core/start/outcome';
import { quantile } from '../src/core/statistics';
import { isLeftHanded, mirrorMarks } from '../src/core/take/handedness';
import { solutionFromMarks } from '../src/core/take/marksToSolution';
import type { Start, StartCandidate } from '../src/vision/start/findStart';
import { startClip } from './measureClip';
import { readTable } from './score';

/** A clip to be started without its marks; they only name the instrument. */
export interface StartClip {
  readonly name: string;
  readonly view: string;
  readonly difficulty: string;
  readonly film: string;
  readonly marks: string;
  readonly landmarks: string;
}

/** How a start compares with the truth; pixels at 960 across. */
export interface StartScore {
  readonly clip: StartClip;
  readonly refused?: Refusal;
  readonly worst?: number;
  readonly median?: number;
  readonly frog?: number;
  readonly tip?: number;
  readonly seconds: number;
}

/** A start whose worst landmark is off by more is false; by less than `RIGHT` it is right (the tracker holds from there). */
const RIGHT = 8;
const FALSE = 15;

/** Starts one film in a headless page and compares. */
export async function scoreStart(browser: Browser, url: string, clip: StartClip): Promise<StartScore & { readonly start: Start }> {
  const marks = parseMarks(readFileSync(clip.marks, 'utf8'));
  const { family, size } = marks.instrument;
  const { start, milliseconds } = await startClip(browser, url, clip.film, { family, size, ...(isLeftHanded(marks) ? { side: 'left' } : {}) });
  const seconds = milliseconds / 1000;
  if ('refused' in start) return { clip, refused: start.refused, seconds, start };
  return { clip, ...compare(clip, start.candidates[0]!), seconds, start };
}

function compare(clip: StartClip, start: StartCandidate) {
  const left = start.marks.instrument.side === 'left';
  const marks = left ? mirrorMarks(start.marks) : start.marks;
  const { width } = marks.video;
  const unit = Math.max(marks.video.width, marks.video.height) / 960;
  const { solution } = solutionFromMarks(marks);
  const truth = placesAt(clip.landmarks, start.frame);
  const off = (name: string, [u, v]: readonly [number, number]) => {
    const t = truth.get(name);
    return t ? Math.hypot(u - (left ? width - t[0] : t[0]), v - t[1]) / unit : Number.NaN;
  };
  const errors = INSTRUMENT_LANDMARKS.flatMap((name) => {
    // What the picture does not show cannot be found.
    const there = truth.get(name);
    if (!there || !insidePicture(solution.camera, there, 0)) return [];
    const image = project(solution.camera, toOuter(solution.poses[0]!, solution.model.landmarks[name]));
    return [image ? off(name, image) : Number.POSITIVE_INFINITY];
  });
  const { 'bow.frog': frog, 'bow.tip': tip } = marks.frames[0]!.points;
  return { worst: Math.max(...errors), median: quantile(errors, 0.5), ...(frog ? { frog: off('bow.frog', frog) } : {}), ...(tip ? { tip: off('bow.tip', tip) } : {}) };
}

/** True places of the named points in a frame, between the frames that are written down. */
function placesAt(path: string, frame: number): Map<string, [number, number]> {
  const rows = readTable(readFileSync(path, 'utf8'));
  const byPoint = new Map<string, { frame: number; u: number; v: number }[]>();
  for (const row of rows) {
    const list = byPoint.get(row.point!) ?? [];
    list.push({ frame: Number(row.frame), u: Number(row.u), v: Number(row.v) });
    byPoint.set(row.point!, list);
  }
  const out = new Map<string, [number, number]>();
  for (const [name, list] of byPoint) {
    const before = list.filter((r) => r.frame <= frame).at(-1) ?? list[0]!;
    const after = list.find((r) => r.frame >= frame) ?? list.at(-1)!;
    const k = after.frame > before.frame ? (frame - before.frame) / (after.frame - before.frame) : 0;
    out.set(name, [before.u + k * (after.u - before.u), before.v + k * (after.v - before.v)]);
  }
  return out;
}

const figure = (x: number | undefined) => (x === undefined ? '' : x.toFixed(1));

/** Starts, refusals and false starts, of all and by view and difficulty. */
export function printStarts(scores: readonly StartScore[]): void {
  console.table(
    scores.map((s) => ({
      clip: s.clip.name,
      outcome: s.refused ?? (s.worst! <= RIGHT ? 'right' : s.worst! <= FALSE ? 'near' : 'FALSE'),
      worst: figure(s.worst),
      median: figure(s.median),
      frog: figure(s.frog),
      tip: figure(s.tip),
      seconds: figure(s.seconds),
    })),
  );
  const groups: [string, (s: StartScore) => string][] = [
    ['all', () => 'all'],
    ['view', (s) => s.clip.view],
    ['difficulty', (s) => s.clip.difficulty],
  ];
  for (const [title, key] of groups) {
    console.log(`\nStarts by ${title}`);
    console.table(
      [...new Set(scores.map(key))].map((group) => {
        const list = scores.filter((s) => key(s) === group);
        const started = list.filter((s) => s.worst !== undefined);
        return {
          [title]: group,
          clips: list.length,
          right: started.filter((s) => s.worst! <= RIGHT).length,
          'off by 8 to 15 px': started.filter((s) => s.worst! > RIGHT && s.worst! <= FALSE).length,
          false: started.filter((s) => s.worst! > FALSE).length,
          refused: list.length - started.length,
          'median px': figure(
            started.length
              ? quantile(
                  started.map((s) => s.median!),
                  0.5,
                )
              : undefined,
          ),
        };
      }),
    );
  }
}
