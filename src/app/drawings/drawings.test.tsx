import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { handPoints } from '../../core/body/handModel';
import { STANCE_JOINTS } from '../../core/body/stance';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { instrumentModel } from '../../core/instrument/landmarks';
import { stringLevels, stringLines } from '../../core/instrument/strings';
import type { FrameMeasures } from '../../core/measures/measures';
import { bandsFor, MIDDLE_OF_STRIP } from '../../core/rubric/rubric';
import { segmentStrokes } from '../../core/strokes/segment';
import { ArmPlate, type ArmScene, type ArmView } from './ArmPlate';
import { BandBar } from './BandBar';
import { DIGITS, FingerBends, HandPlate } from './HandPlate';
import { HoldStrip } from './HoldStrip';
import { LevelFan } from './LevelFan';
import { HeadingClock, StancePlate, type StanceScene, type StanceSigns } from './StancePlate';
import { StringPlan } from './StringPlan';
import { StrokeRibbon } from './StrokeRibbon';
import { type DatedPoint, TrendLine } from './TrendLine';
import { COLOR, type Sign } from './tokens';
import { millimetres, ordinal, partOfBow, plusMinus, skewInWords } from './words';

const model = instrumentModel(dimensionsOf('violin', '4/4'));
const strings = stringLines(model, 'violin');
const bands = bandsFor(MIDDLE_OF_STRIP, 'later');

const plan = (sign: Sign, skew: number | undefined) =>
  renderToStaticMarkup(
    <StringPlan
      width={300}
      height={340}
      model={model}
      strings={strings}
      side={1}
      hair={650}
      bands={bands}
      bow={{ string: 'A', contact: { value: 29, u: 1 }, position: 0.5, ...(skew === undefined ? {} : { skew: { value: skew, u: 1 } }) }}
      trail={[]}
      angleSign={sign}
      contactSign="within"
      label="plan"
    />,
  );

describe('string plan', () => {
  it('draws the angle as a number left of the dots, in the colour of its sign', () => {
    expect(plan('found', 14)).toMatch(/fill="#7A4304"[^>]*>14°/);
    expect(plan('confirmed', 14)).toContain(COLOR.madderTint);
    expect(plan('within', 3)).not.toContain(COLOR.rosinTint);
  });
  it('hatches what cannot be judged and gives no number', () => {
    const unjudged = plan('unjudged', undefined);
    expect(unjudged).toContain('url(#hatch');
    expect(unjudged).not.toMatch(/\d°/);
  });
  it('leans the bow to the right when the tip goes to the scroll, by its true angle', () => {
    const hair = plan('within', 10).match(/<path d="M([\d.-]+) ([\d.-]+) L([\d.-]+) ([\d.-]+)" stroke="#FAF9F4"/)!;
    const [x0, y0, x1, y1] = hair.slice(1).map(Number) as [number, number, number, number];
    expect((Math.atan2(x1 - x0, y0 - y1) * 180) / Math.PI).toBeCloseTo(10, 1);
  });
});

describe('level fan', () => {
  const fan = (known: boolean) =>
    renderToStaticMarkup(
      <LevelFan
        width={212}
        height={151}
        strings={strings}
        levels={stringLevels(model, 'violin')}
        bridgeRadius={42}
        string={known ? 'D' : undefined}
        inclination={known ? { value: 7, u: 1 } : undefined}
        margin={7}
        label="fan"
      />,
    );
  it('names the strings with the low ones right, and shows the room left', () => {
    const letters = [...fan(true).matchAll(/<text x="([\d.]+)"[^>]*>([GDAE])</g)].sort((a, b) => Number(a[1]) - Number(b[1])).map((m) => m[2]);
    expect(letters).toEqual(['E', 'A', 'D', 'G']);
    expect(fan(true)).toContain('7°');
    expect(fan(false)).not.toContain('°');
  });
});

describe('arm plate', () => {
  const scene: ArmScene = {
    shoulder: [-150, 0, 0],
    elbow: [-330, 120, -150],
    wrist: [-300, 360, -80],
    otherShoulder: [150, 0, 0],
    sigma: { elbow: 40, wrist: 10 },
    earlier: [{ shoulder: [-150, 0, 0], elbow: [-300, 150, -150], wrist: [-200, 300, -60] }],
    bow: { frog: [-300, 420, -60], tip: [200, -40, 60], contact: [60, 90, 30] },
  };
  const plate = (view: ArmView, shown: ArmScene | undefined) => renderToStaticMarkup(<ArmPlate width={212} height={163} view={view} scene={shown} sign="within" label="arm" />);
  const circles = (markup: string) => [...markup.matchAll(/<circle cx="([\d.-]+)" cy="([\d.-]+)" r="([\d.]+)" fill="#1F2629"/g)].map((m) => m.slice(1).map(Number));
  it("draws the player's right to the left of the page, in front below, and wider discs where it is less sure", () => {
    const [elbow, wrist] = circles(plate('above', scene)) as [number[], number[]];
    expect(elbow[0]!).toBeLessThan(106);
    expect(wrist[1]!).toBeGreaterThan(elbow[1]!);
    expect(elbow[2]!).toBeGreaterThan(wrist[2]!);
    expect(plate('above', scene)).toContain('back line');
  });
  it('shows heights from the front', () => {
    const [elbow, wrist] = circles(plate('front', scene)) as [number[], number[]];
    expect(elbow[1]!).toBeGreaterThan(wrist[1]!);
    expect(plate('front', scene)).not.toContain('back line');
  });
  it('is hatched, without joints, where the arm cannot be judged', () => {
    expect(plate('above', undefined)).toContain('url(#hatch');
    expect(plate('above', undefined)).not.toContain('<circle');
  });
});

describe('stance plate', () => {
  const places: Record<string, [number, number, number]> = {
    'shoulder.right': [-150, 0, 1390],
    'shoulder.left': [150, 0, 1390],
    'hip.right': [-90, 0, 890],
    'hip.left': [90, 0, 890],
    'knee.right': [-100, 10, 480],
    'knee.left': [100, 10, 480],
    'ankle.right': [-120, 0, 80],
    'ankle.left': [120, 0, 80],
    'elbow.left': [250, 200, 1160],
    'wrist.left': [330, 380, 1380],
    'ear.right': [-60, 40, 1600],
    'ear.left': [80, 40, 1590],
    nose: [30, 140, 1580],
  };
  const scene: StanceScene = { joints: places as unknown as StanceScene['joints'], seen: new Set(STANCE_JOINTS), told: { front: true, side: false } };
  const calm: StanceSigns = { trunk: 'within', head: 'within', feet: 'within', elbow: 'within', peg: 'within' };
  const plate = (shown: StanceScene | undefined, signs = calm) => renderToStaticMarkup(<StancePlate width={212} height={163} scene={shown} signs={signs} label="stance" />);
  it('colours what is found, and only that', () => {
    expect(plate(scene)).not.toContain(COLOR.rosin);
    expect(plate(scene, { ...calm, trunk: 'found' })).toContain(COLOR.rosin);
    expect(plate(scene, { ...calm, feet: 'confirmed' })).toContain(COLOR.madder);
  });
  it('ties the peg of a cello to the ear, from the front and from the side, coloured where it is found to be far', () => {
    const ties = (markup: string, color: string) => markup.match(new RegExp(`<line[^>]*stroke="${color}" stroke-width="1.4"`, 'g'))?.length ?? 0;
    const cello: StanceScene = { ...scene, peg: [140, 80, 1600] };
    expect(ties(plate(scene), COLOR.ink)).toBe(0);
    expect(ties(plate(cello), COLOR.ink)).toBe(2);
    expect(ties(plate(cello, { ...calm, peg: 'found' }), COLOR.rosin)).toBe(2);
  });
  it('hatches the side from which the lean was not told, and all of it without a stance', () => {
    expect(plate(scene).match(/stroke="url\(#hatch/g)).toHaveLength(1);
    expect(plate({ ...scene, told: { front: true, side: true } })).not.toMatch(/stroke="url\(#hatch/);
    expect(plate(undefined)).not.toContain('<circle');
  });
  it('draws no legs and no floor where they are out of the picture', () => {
    const lines = (markup: string) => markup.match(/<polyline/g)?.length ?? 0;
    const cut: StanceScene = { ...scene, seen: new Set(STANCE_JOINTS.filter((j) => !/knee|ankle/.test(j))) };
    expect(lines(plate(scene)) - lines(plate(cut))).toBe(4);
  });
  it('points the scroll to its hour, hatched where it was not told', () => {
    const clock = (heading: number | undefined) =>
      renderToStaticMarkup(
        <HeadingClock
          width={212}
          height={163}
          heading={heading === undefined ? undefined : { value: heading, u: 5 }}
          turn={undefined}
          band={[30, 60]}
          sign="within"
          label="clock"
        />,
      );
    const ring = (markup: string) => [...markup.matchAll(/<circle cx="([\d.]+)" cy="([\d.]+)" r="5"/g)].map((m) => m.slice(1, 3).map(Number))[0];
    expect(ring(clock(90))![0]).toBeGreaterThan(ring(clock(20))![0]!);
    expect(ring(clock(20))![1]).toBeGreaterThan(ring(clock(90))![1]!);
    expect(ring(clock(undefined))).toBeUndefined();
  });
});

describe('hand plate', () => {
  const points = handPoints([0, 105, 45, 0, 0, 8, ...Array.from({ length: 4 }, () => [20, 0, 50, 30]).flat(), 0, 10, 10, 36], 1);
  const plate = (told: readonly (typeof DIGITS)[number][]) =>
    renderToStaticMarkup(<HandPlate width={212} height={89} scene={{ points, told: new Set(told), stick: 21 }} signs={{ thumb: 'found' }} label="hand" />);
  it('lights the hole between thumb and middle finger only where both were told', () => {
    expect(plate(DIGITS)).toMatch(/<polygon[^>]*fill="#FFFDF3"/);
    expect(plate(['index', 'middle', 'ring'])).not.toMatch(/<polygon[^>]*fill="#FFFDF3"/);
  });
  it('rings the joint in question, and hatches digits that were not told', () => {
    expect(plate(DIGITS)).toContain(COLOR.rosin);
    expect(plate(['index', 'middle', 'ring'])).not.toContain(COLOR.rosin);
    expect(plate(['index', 'middle', 'ring'])).toMatch(/stroke="url\(#hatch/);
    expect(plate(DIGITS)).not.toMatch(/stroke="url\(#hatch/);
  });
  it('writes a question mark for a bend that cannot be told', () => {
    const bends = renderToStaticMarkup(
      <FingerBends
        width={212}
        height={66}
        bends={DIGITS.map((digit) => ({ digit, value: digit === 'thumb' ? undefined : 50, good: [10, 90], sign: 'within' as const }))}
        label="bends"
      />,
    );
    expect(bends.match(/>\?</g)).toHaveLength(1);
    expect(bends.match(/>50°</g)).toHaveLength(4);
  });
});

describe('stroke ribbon', () => {
  const frames = Array.from(
    { length: 101 },
    (_, i): FrameMeasures => ({
      frame: i,
      t: i / 25,
      string: 'A',
      values:
        i > 60 && i < 70
          ? {}
          : { bow_position: { value: 0.5 - 0.4 * Math.cos((Math.PI * i) / 50), u: 0.01 }, skew_deg: { value: 14, u: 1 }, contact_fraction: { value: 0.5, u: 0.03 } },
    }),
  );
  const strokes = segmentStrokes(frames);
  const draw = (sign: Sign) =>
    renderToStaticMarkup(
      <StrokeRibbon
        width={1240}
        left={88}
        frames={frames}
        strokes={strokes}
        duration={4}
        bands={bands}
        now={1}
        slices={[{ from: 1, to: 1.6, sign }]}
        signOf={() => sign}
        onSeek={() => undefined}
      />,
    );
  it('has a sail a bow, slices where something was found, a solid foot once confirmed', () => {
    expect(draw('found')).toContain(`aria-label="${strokes.length} bows over 4.0 seconds"`);
    expect(draw('found')).toContain('14°');
    expect(draw('found')).not.toContain(`height="5" fill="${COLOR.madder}"`);
    expect(draw('confirmed')).toContain(`height="5" fill="${COLOR.madder}"`);
  });
  it('hatches the time in which nothing was measured', () => {
    expect(draw('within').match(/url\(#hatch/g)!.length).toBeGreaterThanOrEqual(3);
  });
});

describe('band bar', () => {
  it('shows value, doubt and both edges', () => {
    const bar = renderToStaticMarkup(
      <BandBar width={184} range={[-20, 20]} good={[-5, 5]} fault={[-10, 10]} value={{ value: 14, u: 1 }} sign="found" ends={['to player', 'square', 'to scroll']} label="14" />,
    );
    expect(bar).toContain('to scroll');
    expect(bar.match(/<circle/g)).toHaveLength(1);
    expect(bar).toContain('opacity="0.3"');
  });
});

describe('a number from take to take', () => {
  const point = (day: number, value: number): DatedPoint => ({ day, label: `${day} Nov`, words: `${value}°`, value, spread: 1, strokes: 4, shared: 1 });
  const draw = (points: DatedPoint[]) =>
    renderToStaticMarkup(<TrendLine width={392} height={136} points={points} good={[-5, 5]} ends={['to player', 'to scroll']} label="skew" onOpen={() => undefined} />);
  it('writes the number beside each ring, found in rosin where it lies outside what is good, and says what lies above and below', () => {
    const line = draw([point(10, 15), point(17, 2)]);
    expect(line).toMatch(/fill="#7A4304"[^>]*>15°/);
    expect(line).toMatch(new RegExp(`fill="${COLOR.ink}"[^>]*>2°`));
    const heights = ['to scroll', 'to player'].map((word) => Number(line.match(new RegExp(`y="([\\d.]+)"[^>]*>${word}`))![1]));
    expect(heights[0]).toBeLessThan(heights[1]!);
  });
  it('keeps to the first and the last number where many takes leave no room', () => {
    const line = draw(Array.from({ length: 12 }, (_, i) => point(i + 1, i)));
    expect([...line.matchAll(/>(\d+)°</g)].map((m) => m[1])).toEqual(['0', '11']);
  });
});

describe('words', () => {
  it('say direction instead of a sign', () => {
    expect([skewInWords(14.2), skewInWords(-6), skewInWords(0.3)]).toEqual(['14° to the scroll', '6° to the player', 'Square']);
    expect([millimetres(46), millimetres(-8)]).toEqual(['46 mm from the bridge', '8 mm behind the bridge']);
    expect([plusMinus(0.2), plusMinus(2.4), plusMinus(0.031, 2)]).toEqual(['±1', '±2', '±0.03']);
    expect([ordinal(0), ordinal(13), partOfBow(0.05), partOfBow(0.95)]).toEqual(['first', '14th', 'at the frog', 'at the tip']);
  });
});

describe('how the instrument was held', () => {
  const holds = [
    { kind: 'rest', from: 0, to: 2 },
    { kind: 'hands-free', from: 2.5, to: 7.7 },
    { kind: 'playing', from: 8, to: 10 },
  ] as const;
  const strip = (duration: number) => renderToStaticMarkup(<HoldStrip width={212} duration={duration} holds={holds} now={3} onSeek={() => undefined} />);
  it('times what is held without the left hand, and says each hold in words', () => {
    expect(strip(10)).toContain('>5.2 s<');
    expect(strip(10)).toContain('aria-label="rest position, 2.0 s from 0.0 s"');
  });
  it('leaves the time out where there is no room for it', () => {
    expect(strip(100)).not.toContain('<text');
  });
});
