import { describe, expect, it } from 'vitest';
import { BODY_JOINTS, type BodySighting } from '../body/sighting';
import type { BowSighting } from '../bow/sighting';
import { NO_BOW } from '../bow/sighting';
import type { Pose } from '../geometry/pose';
import type { TrackedFrame } from '../measures/measureFrames';
import { doubtfulSpans } from './doubt';

const pose = {} as Pose;
const SEEN = { line: {} } as BowSighting;
/** Two seconds at 25 pictures a second. */
const film = (bow: (t: number) => boolean, instrument: (t: number) => boolean = () => true): TrackedFrame[] =>
  Array.from({ length: 50 }, (_, index) => {
    const t = index / 25;
    return { index, t, pose: instrument(t) ? pose : undefined, quality: 1, sighting: bow(t) ? SEEN : NO_BOW };
  });
/** Looks five times a second, the bow hand at this height in a picture where shoulders are at 100 and hips at 200. */
const looks = (wristAt: (t: number) => number): BodySighting[] =>
  Array.from({ length: 10 }, (_, k) => {
    const height = (joint: string) => (joint.startsWith('hip') ? 200 : joint === 'wrist.right' ? wristAt(k / 5) : 100);
    return { frame: 5 * k, t: k / 5, joints: Object.fromEntries(BODY_JOINTS.map((j) => [j, { point: [50, height(j)], space: [0, 0, 0], seen: 1 }])) } as unknown as BodySighting;
  });
const lostInTheMiddle = film((t) => t < 0.6 || t > 1.4);

describe('what one more mark would mend', () => {
  it('is where instrument or bow were lost for longer than neighbours bridge', () => {
    expect(doubtfulSpans({ family: 'violin', tracked: lostInTheMiddle })).toMatchObject([{ why: 'bow-lost', firstFrame: 15, lastFrame: 35 }]);
    expect(
      doubtfulSpans({
        family: 'violin',
        tracked: film(
          () => true,
          (t) => t > 0.5,
        ),
      }),
    ).toMatchObject([{ why: 'instrument-lost', firstFrame: 0 }]);
    expect(doubtfulSpans({ family: 'violin', tracked: film((t) => t < 0.6 || t > 0.7) })).toEqual([]);
  });
  it('is nothing while the bow arm hangs, at an instrument held at the shoulder', () => {
    const given = { family: 'violin', tracked: lostInTheMiddle } as const;
    expect(doubtfulSpans({ ...given, bodies: looks((t) => (t > 0.4 && t < 1.5 ? 190 : 120)) })).toEqual([]);
    expect(doubtfulSpans({ ...given, bodies: looks(() => 120) })).toHaveLength(1);
    // At a cello the hand is always low.
    expect(doubtfulSpans({ ...given, family: 'cello', bodies: looks(() => 190) })).toHaveLength(1);
  });
});
