import { curveCatmullRom, line as d3Line } from 'd3';
import { FINGERS } from '../../core/body/hand';
import { handPoints } from '../../core/body/handModel';
import type { Vec3 } from '../../core/geometry/vec3';
import { COLOR } from './tokens';

type Point = readonly [number, number];

/** A hand as it usually lies on the bow (bends in degrees, as the hand model numbers them), looked at from the far side. */
const USUAL_HAND = handPoints([0, 105, 45, 0, 0, 8, ...FINGERS.flatMap((_, i) => [18 + 4 * i, [4, 0, -4, -9][i]!, [52, 50, 48, 62][i]!, 30]), 0, 10, 10, 36], 1);
const onHand = (p: Vec3): Point => [-p[0], -p[2]];

/** A standing player, mm to the player's left and up; drawn as the teacher sees one. */
const USUAL_BODY: Readonly<Record<string, Point>> = {
  'body.shoulder.right': [-160, 1390],
  'body.elbow.right': [-330, 1150],
  'body.wrist.right': [-300, 1360],
  'body.shoulder.left': [160, 1390],
  'body.elbow.left': [250, 1160],
  'hand.left.0': [330, 1350],
  'hand.left.9': [345, 1440],
  'body.hip.right': [-90, 890],
  'body.hip.left': [90, 890],
  'body.knee.right': [-110, 480],
  'body.knee.left': [110, 480],
  'body.ankle.right': [-125, 80],
  'body.ankle.left': [125, 80],
};

/** The same player from the side, facing left, with the points of the back; mm forward counts to the left. */
const FROM_THE_SIDE: Readonly<Record<string, Point>> = {
  'body.back.upper': [785, 1300],
  'body.back.small': [730, 1040],
  'body.back.seat': [790, 860],
};
/** Neck to shoulder blades, small of the back, seat and down the leg, as the outline runs. */
const BACK_LINE: readonly Point[] = [
  [715, 1470],
  [785, 1300],
  [730, 1040],
  [790, 860],
  [745, 480],
  [735, 80],
];
const FRONT_LINE: readonly Point[] = [
  [640, 1440],
  [590, 1250],
  [610, 900],
  [650, 480],
  [655, 80],
];

/** A line drawing of the bow hand or of the player, with the joint that is asked for and those that are marked. */
export function PlayerMap({ width, height, of, marked, asked }: { width: number; height: number; of: 'hand' | 'body'; marked: ReadonlySet<string>; asked: string | undefined }) {
  const hand = of === 'hand';
  const k = hand ? height / 140 : height / 1850;
  const at = ([x, y]: Point): Point => (hand ? [width * 0.52 + x * k, height * 0.68 + y * k] : [width * 0.36 + x * k, height * 0.94 - y * k]);
  const places: Readonly<Record<string, Point>> = hand
    ? Object.fromEntries(USUAL_HAND.map((p, i) => [`hand.bow.${i}`, at(onHand(p))]))
    : mapped({ ...USUAL_BODY, ...FROM_THE_SIDE }, at);
  const line = (names: readonly string[], thick: number, color: string) => (
    <polyline
      key={names.join()}
      points={names.map((n) => places[n]!.map((v) => v.toFixed(1)).join(',')).join(' ')}
      fill="none"
      stroke={color}
      strokeWidth={thick}
      strokeLinejoin="round"
      strokeLinecap="round"
    />
  );
  const digits = [
    [1, 2, 3, 4],
    [5, 6, 7, 8],
    [9, 10, 11, 12],
    [13, 14, 15, 16],
    [17, 18, 19, 20],
  ].map((d) => d.map((i) => `hand.bow.${i}`));
  const limbs = [
    ['body.shoulder.right', 'body.elbow.right', 'body.wrist.right'],
    ['body.shoulder.left', 'body.elbow.left', 'hand.left.0', 'hand.left.9'],
    ['body.shoulder.right', 'body.shoulder.left', 'body.hip.left', 'body.hip.right', 'body.shoulder.right'],
    ['body.hip.right', 'body.knee.right', 'body.ankle.right'],
    ['body.hip.left', 'body.knee.left', 'body.ankle.left'],
  ];
  const ring = asked === undefined ? undefined : places[asked];
  const [stickA, stickB] = [at([-120, -21]), at([70, -21])];
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      className="h-auto max-w-full rounded-card border border-rule bg-sheet"
      role="img"
      aria-label={hand ? 'The bow hand' : 'The player'}
    >
      {hand ? (
        <>
          {line(digits[0]!, 17 * k, '#DDD8CC')}
          <line x1={stickA[0]} y1={stickA[1]} x2={stickB[0]} y2={stickB[1]} stroke={COLOR.stick} strokeWidth={8 * k} strokeLinecap="round" />
          <rect x={at([0, 0])[0]} y={stickA[1]} width={54 * k} height={21 * k} fill={COLOR.ebony} />
          <polygon points={[0, 5, 9, 13, 17].map((i) => places[`hand.bow.${i}`]!.join(',')).join(' ')} fill="#EBE6DB" stroke={COLOR.ink} strokeLinejoin="round" />
          {digits
            .slice(1)
            .reverse()
            .map((d) => (
              <g key={d[0]}>
                {line(d, 15 * k + 2, COLOR.ink)}
                {line(d, 15 * k, '#EBE6DB')}
              </g>
            ))}
        </>
      ) : (
        <>
          <ellipse cx={at([20, 1590])[0]} cy={at([20, 1590])[1]} rx={78 * k} ry={110 * k} fill="none" stroke={COLOR.ink} strokeWidth={1.6} />
          {limbs.map((l) => line(l, 1.6, COLOR.ink))}
          <ellipse cx={at([655, 1590])[0]} cy={at([655, 1590])[1]} rx={88 * k} ry={110 * k} fill="none" stroke={COLOR.ink} strokeWidth={1.6} />
          <path d={outline(BACK_LINE.map(at)) ?? undefined} fill="none" stroke={COLOR.ink} strokeWidth={1.6} />
          <path d={outline(FRONT_LINE.map(at)) ?? undefined} fill="none" stroke={COLOR.rule} strokeWidth={1.2} />
        </>
      )}
      {Object.entries(places).map(([name, p]) => (
        <circle key={name} cx={p[0]} cy={p[1]} r={3} fill={marked.has(name) ? COLOR.ink : COLOR.sheet} stroke={COLOR.ink} strokeWidth={1.2} />
      ))}
      {ring && (
        <>
          <circle cx={ring[0]} cy={ring[1]} r={11} fill={COLOR.rosinTint} opacity={0.75} />
          <circle cx={ring[0]} cy={ring[1]} r={5} fill={COLOR.lit} stroke={COLOR.rosin} strokeWidth={2.2} />
        </>
      )}
    </svg>
  );
}

/** A soft line through points. */
const outline = d3Line<Point>().curve(curveCatmullRom);

const mapped = (places: Readonly<Record<string, Point>>, at: (p: Point) => Point): Record<string, Point> =>
  Object.fromEntries(Object.entries(places).map(([name, p]) => [name, at(p)]));
