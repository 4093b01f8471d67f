import type { Vec3 } from '../../core/geometry/vec3';
import { Plate } from './Plate';
import { Ring, useHatch } from './signs';
import { COLOR, type Sign } from './tokens';

export const DIGITS = ['thumb', 'index', 'middle', 'ring', 'little'] as const;
export type Digit = (typeof DIGITS)[number];

/** The bow hand beside the stick. */
export interface HandScene {
  /** The 21 points, mm from the frog end of the hair: along the hair to the tip, toward the player, out of the instrument's top. */
  readonly points: readonly Vec3[];
  /** Digits whose joints were told; the others are drawn hatched. */
  readonly told: ReadonlySet<Digit>;
  /** Height of the stick's axis over the hair, mm. */
  readonly stick: number;
}

const SKIN = '#EBDDCB';
/** Points of a digit, from its root at the palm. */
const CHAIN: Readonly<Record<Digit, readonly number[]>> = {
  thumb: [1, 2, 3, 4],
  index: [5, 6, 7, 8],
  middle: [9, 10, 11, 12],
  ring: [13, 14, 15, 16],
  little: [17, 18, 19, 20],
};
/** The joint that is spoken of: the thumb's end joint, the fingers' middle joints. */
const JOINT: Readonly<Record<Digit, number>> = { thumb: 3, index: 6, middle: 10, ring: 14, little: 18 };
/** Thickness of fingers, mm. */
const THICK = 15;
/** What the two views show, mm: across and up. */
const VIEW = { left: -105, right: 75, up: 105, down: -45 } as const;

/** Along the stick, thumb against middle finger with the hole between them lit; and across it, the fingers side by side. */
export function HandPlate({
  width,
  height,
  scene,
  signs,
  label,
}: {
  width: number;
  height: number;
  scene: HandScene | undefined;
  signs: Partial<Readonly<Record<Digit, Sign>>>;
  label: string;
}) {
  const hatch = useHatch();
  const half = width / 2;
  const k = Math.min(half / (VIEW.right - VIEW.left), height / (VIEW.up - VIEW.down));
  const y = (p: Vec3) => height - 4 + (VIEW.down - p[2]) * k + 4;
  // Looking along the stick from the screw: the player's side is on the left.
  const along = (p: Vec3): Point => [half * 0.6 - p[1] * k, y(p)];
  // Looking at the stick from the far side: the frog is on the right.
  const across = (p: Vec3): Point => [half + half * 0.52 - p[0] * k, y(p)];
  return (
    <Plate width={width} height={height} label={label} hatch={hatch}>
      {!scene && <rect width={width} height={height} fill={`url(#${hatch})`} opacity={0.6} />}
      {scene && (
        <>
          <AlongStick scene={scene} at={along} k={k} signs={signs} hatch={hatch} />
          <rect x={half} y={0} width={half} height={height} fill={COLOR.spruce} />
          <line x1={half} x2={half} y1={8} y2={height - 8} stroke={COLOR.edge} strokeWidth={0.6} opacity={0.5} />
          <AcrossStick scene={scene} at={across} k={k} signs={signs} hatch={hatch} />
        </>
      )}
    </Plate>
  );
}

type Point = readonly [number, number];
const text = (points: readonly Point[]) => points.map((p) => p.map((v) => v.toFixed(1)).join(',')).join(' ');

function DigitShape({ points, k, told, faint, hatch }: { points: readonly Point[]; k: number; told: boolean; faint?: boolean; hatch: string }) {
  const line = { points: text(points), fill: 'none', strokeLinejoin: 'round', strokeLinecap: 'round' } as const;
  return (
    <g opacity={faint ? 0.38 : 1}>
      <polyline {...line} stroke={COLOR.ink} strokeWidth={THICK * k + 1.6} />
      <polyline {...line} stroke={SKIN} strokeWidth={THICK * k} />
      {!told && <polyline {...line} stroke={`url(#${hatch})`} strokeWidth={THICK * k} />}
    </g>
  );
}

function Joints({ points, sign, at }: { points: readonly Point[]; sign: Sign; at: number }) {
  return (
    <>
      {points
        .slice(1, -1)
        .map((p, i) =>
          i === at ? <Ring key={p.join()} x={p[0]} y={p[1]} sign={sign} small /> : <circle key={p.join()} cx={p[0]} cy={p[1]} r={1.8} fill={COLOR.lit} stroke={COLOR.ink} />,
        )}
    </>
  );
}

interface Side {
  readonly scene: HandScene;
  readonly at: (p: Vec3) => Point;
  readonly k: number;
  readonly signs: Partial<Readonly<Record<Digit, Sign>>>;
  readonly hatch: string;
}

const onScene = ({ scene, at }: Side, digit: Digit) => CHAIN[digit].map((i) => at(scene.points[i]!));
/** Where in a digit's joints between root and tip the spoken one is. */
const placeOf = (digit: Digit) => CHAIN[digit].indexOf(JOINT[digit]) - 1;

function AlongStick(side: Side) {
  const { scene, at, k, signs, hatch } = side;
  const stick = at([0, 0, scene.stick]);
  const frog = at([0, 0, scene.stick / 2]);
  const [thumb, middle] = [onScene(side, 'thumb'), onScene(side, 'middle')];
  const wrist = at(scene.points[0]!);
  const both = scene.told.has('thumb') && scene.told.has('middle');
  return (
    <g>
      <polygon
        points={text([wrist, ...thumb, ...[...middle].reverse()])}
        fill={both ? COLOR.lit : `url(#${hatch})`}
        opacity={both ? 1 : 0.5}
        stroke={both ? COLOR.edge : 'none'}
        strokeWidth={0.7}
      />
      {(['ring', 'index', 'little'] as const).map((digit) => (
        <DigitShape key={digit} points={[wrist, ...onScene(side, digit)]} k={k} told={scene.told.has(digit)} faint hatch={hatch} />
      ))}
      <rect x={frog[0] - 6.5 * k} y={frog[1] - 9 * k} width={13 * k} height={20 * k} fill={COLOR.ebony} />
      <circle cx={stick[0]} cy={stick[1]} r={4.6 * k} fill={COLOR.stick} />
      {(
        [
          ['thumb', thumb],
          ['middle', [wrist, ...middle]],
        ] as const
      ).map(([digit, points]) => (
        <DigitShape key={digit} points={points} k={k} told={scene.told.has(digit)} hatch={hatch} />
      ))}
      {scene.told.has('thumb') && <Joints points={thumb} sign={signs.thumb ?? 'within'} at={placeOf('thumb')} />}
      {scene.told.has('middle') && <Joints points={middle} sign={signs.middle ?? 'within'} at={placeOf('middle')} />}
    </g>
  );
}

function AcrossStick(side: Side) {
  const { scene, at, k, signs, hatch } = side;
  const [a, b] = [at([130, 0, scene.stick]), at([-62, 0, scene.stick])];
  const palm = [0, 5, 9, 13, 17].map((i) => at(scene.points[i]!));
  return (
    <g>
      <DigitShape points={onScene(side, 'thumb')} k={k} told={scene.told.has('thumb')} faint hatch={hatch} />
      <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} stroke={COLOR.stick} strokeWidth={8 * k} strokeLinecap="round" />
      <rect x={at([2, 0, 0])[0]} y={a[1]} width={52 * k} height={scene.stick * k} fill={COLOR.ebony} />
      <polygon points={text(palm)} fill={SKIN} stroke={COLOR.ink} strokeWidth={1} strokeLinejoin="round" />
      {(['little', 'ring', 'middle', 'index'] as const).map((digit) => (
        <g key={digit}>
          <DigitShape points={onScene(side, digit)} k={k} told={scene.told.has(digit)} hatch={hatch} />
          {scene.told.has(digit) && <Joints points={onScene(side, digit)} sign={signs[digit] ?? 'within'} at={placeOf(digit)} />}
        </g>
      ))}
    </g>
  );
}

/** One joint of each digit on its lit fan: how far it is bent, 0 straight. */
export interface Bend {
  readonly digit: Digit;
  /** Degrees; undefined where it cannot be told. */
  readonly value: number | undefined;
  /** What is good, degrees. */
  readonly good: readonly [number, number];
  readonly sign: Sign;
}

/** Finger bends: the bone before the joint lies level, the one after it on its fan. */
export function FingerBends({ width, height, bends, label }: { width: number; height: number; bends: readonly Bend[]; label: string }) {
  const hatch = useHatch();
  const step = width / bends.length;
  const reach = Math.min(26, step * 0.55);
  return (
    <Plate width={width} height={height} label={label} hatch={hatch}>
      {bends.map(({ digit, value, good, sign }, i) => {
        const [x, y] = [step * i + step * 0.42, 16];
        const end = (degrees: number, r: number): Point => [x + r * Math.cos((degrees * Math.PI) / 180), y + r * Math.sin((degrees * Math.PI) / 180)];
        const [p, q] = [end(Math.max(-30, good[0]), reach), end(Math.min(110, good[1]), reach)];
        const told = value !== undefined;
        const tip = end(value ?? 0, reach * 0.92);
        const color = sign === 'found' ? COLOR.rosin : sign === 'confirmed' ? COLOR.madder : COLOR.ink;
        return (
          <g key={digit}>
            <path d={`M${x} ${y} L${p.join(' ')} A${reach} ${reach} 0 0 1 ${q.join(' ')} Z`} fill={told ? COLOR.lit : `url(#${hatch})`} stroke={COLOR.edge} strokeWidth={0.8} />
            <line x1={x - step * 0.26} y1={y} x2={x} y2={y} stroke={color} strokeWidth={5} strokeLinecap="round" />
            {told && <line x1={x} y1={y} x2={tip[0]} y2={tip[1]} stroke={color} strokeWidth={5} strokeLinecap="round" />}
            {sign !== 'within' && told && <Ring x={x} y={y} sign={sign} small />}
            <text x={x} y={height - 17} fontSize={12} fontWeight={700} textAnchor="middle" fill={color}>
              {told ? `${value.toFixed(0)}°` : '?'}
            </text>
            <text x={x} y={height - 5} fontSize={step < 38 ? 9 : 11} textAnchor="middle" fill={COLOR.soft}>
              {digit}
            </text>
          </g>
        );
      })}
    </Plate>
  );
}
