import type { StanceJoint } from '../../core/body/stance';
import type { Vec3 } from '../../core/geometry/vec3';
import { Plate } from './Plate';
import { Capsule, Ring, useHatch } from './signs';
import { COLOR, type Sign, signColor } from './tokens';

export interface StanceScene {
  /** mm to the player's left, forward, up from the floor between the feet. */
  readonly joints: Readonly<Record<StanceJoint, Vec3>>;
  /** Joints that were in sight; the rest stand where bodies usually have them and are drawn thin. */
  readonly seen: ReadonlySet<StanceJoint>;
  /** Whether the trunk's lean could be told as seen from the front, and from the side. */
  readonly told: { readonly front: boolean; readonly side: boolean };
  readonly bowArm?: { readonly elbow: Vec3; readonly wrist: Vec3 } | undefined;
  readonly instrument?: { readonly outline: readonly Vec3[]; readonly neck: readonly [Vec3, Vec3] } | undefined;
  readonly bow?: readonly [Vec3, Vec3] | undefined;
  /** A cello's lowest peg, where its distance from the ear was told. */
  readonly peg?: Vec3 | undefined;
}

export type StanceView = 'figures' | 'clock';

/** What of the stance is found, and how surely it was told. */
export interface StanceSigns {
  readonly trunk: Sign;
  readonly head: Sign;
  readonly feet: Sign;
  readonly elbow: Sign;
  readonly peg: Sign;
}

/** Room about the player, mm: to either side, over the head, under the feet; and under the hips where the legs are out of the picture. */
const ROOM = { side: 560, over: 130, under: 60, hips: 150 } as const;
/** A low plate keeps so much free over the head and under the feet, px. */
const MARGIN = 6;
const BODY = '#8F9A98';
const CHEST = '#C3CAC7';

/** The player from the front and from the side: body grey, trunk line, head and feet in ink, plumb dotted. */
export function StancePlate({ width, height, scene, signs, label }: { width: number; height: number; scene: StanceScene | undefined; signs: StanceSigns; label: string }) {
  const hatch = useHatch();
  const top = scene ? Math.max(scene.joints['ear.left'][2], scene.joints['ear.right'][2]) + ROOM.over : 1700;
  const standing = scene?.seen.has('ankle.left') === true && scene.seen.has('ankle.right');
  const low = !scene || standing ? -ROOM.under : scene.joints['hip.left'][2] - ROOM.hips;
  const k = Math.min((height - 2 * MARGIN) / (top - low), width / 2 / (2 * ROOM.side));
  const floor = (height + (top - low) * k) / 2 + low * k;
  const front = (p: Vec3): Point => [width * 0.25 + p[0] * k, floor - p[2] * k];
  // From the player's left: forward is to the left of the page.
  const side = (p: Vec3): Point => [width * 0.77 - p[1] * k, floor - p[2] * k];
  return (
    <Plate width={width} height={height} label={label} hatch={hatch}>
      {!scene && <rect width={width} height={height} fill={`url(#${hatch})`} opacity={0.6} />}
      {scene && (
        <>
          {standing && <line x1={0} x2={width} y1={floor} y2={floor} stroke={COLOR.ink} strokeWidth={1} />}
          <Figure scene={scene} at={front} k={k} signs={signs} view="front" hatch={hatch} />
          <line x1={width / 2} x2={width / 2} y1={8} y2={height - 8} stroke={COLOR.edge} strokeWidth={0.6} opacity={0.5} />
          <Figure scene={scene} at={side} k={k} signs={signs} view="side" hatch={hatch} />
        </>
      )}
    </Plate>
  );
}

type Point = readonly [number, number];
const text = (points: readonly Point[]) => points.map((p) => p.map((v) => v.toFixed(1)).join(',')).join(' ');
const between = (a: Point, b: Point): Point => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];

function Figure({ scene, at, k, signs, view, hatch }: { scene: StanceScene; at: (p: Vec3) => Point; k: number; signs: StanceSigns; view: 'front' | 'side'; hatch: string }) {
  const { joints, seen } = scene;
  const P = (j: StanceJoint) => at(joints[j]);
  const limb = (list: readonly StanceJoint[], thick: number) => {
    const sure = list.every((j) => seen.has(j));
    return (
      <polyline
        key={list.join()}
        points={text(list.map(P))}
        fill="none"
        stroke={BODY}
        strokeWidth={sure ? thick * k : 1}
        strokeDasharray={sure ? undefined : '3 4'}
        strokeLinejoin="round"
        strokeLinecap="round"
      />
    );
  };
  const hips = between(P('hip.left'), P('hip.right'));
  const chest = between(P('shoulder.left'), P('shoulder.right'));
  const head = between(P('ear.left'), P('ear.right'));
  const feet = between(P('ankle.left'), P('ankle.right'));
  const standing = seen.has('ankle.left') && seen.has('ankle.right');
  const wide = view === 'front';
  const told = scene.told[view];
  return (
    <g>
      {standing && limb(['hip.right', 'knee.right', 'ankle.right'], 92)}
      {standing && limb(['hip.left', 'knee.left', 'ankle.left'], 92)}
      {wide ? (
        <polygon points={text([P('shoulder.right'), P('shoulder.left'), P('hip.left'), P('hip.right')])} fill={CHEST} stroke={BODY} strokeWidth={70 * k} strokeLinejoin="round" />
      ) : (
        <line x1={chest[0]} y1={chest[1]} x2={hips[0]} y2={hips[1]} stroke={CHEST} strokeWidth={190 * k} strokeLinecap="round" />
      )}
      {told ? (
        <>
          <line x1={hips[0]} x2={hips[0]} y1={chest[1] - 300 * k} y2={standing ? feet[1] : hips[1] + 140 * k} stroke={COLOR.ink} strokeWidth={1.2} strokeDasharray="2 5" />
          <line x1={hips[0]} y1={hips[1]} x2={chest[0]} y2={chest[1]} stroke={signColor(signs.trunk)} strokeWidth={2} />
        </>
      ) : (
        <line x1={hips[0]} y1={hips[1]} x2={chest[0]} y2={chest[1]} stroke={`url(#${hatch})`} strokeWidth={170 * k} strokeLinecap="round" />
      )}
      <line x1={chest[0]} y1={chest[1]} x2={head[0]} y2={head[1]} stroke={CHEST} strokeWidth={95 * k} />
      <Head at={head} ears={[P('ear.right'), P('ear.left')]} nose={P('nose')} k={k} sign={signs.head} view={view} />
      {limb(['shoulder.left', 'elbow.left', 'wrist.left'], 62)}
      {scene.instrument && (
        <>
          <polygon points={text(scene.instrument.outline.map(at))} fill="#D7A55C" stroke={COLOR.edge} strokeWidth={0.8} />
          <line {...ends(scene.instrument.neck.map(at) as [Point, Point])} stroke={COLOR.ebony} strokeWidth={2.4} strokeLinecap="round" />
        </>
      )}
      {scene.bow && <line {...ends(scene.bow.map(at) as [Point, Point])} stroke={COLOR.stick} strokeWidth={1.6} strokeLinecap="round" />}
      {scene.bowArm && (
        <polyline
          points={text([P('shoulder.right'), at(scene.bowArm.elbow), at(scene.bowArm.wrist)])}
          fill="none"
          stroke={BODY}
          strokeWidth={62 * k}
          strokeLinejoin="round"
          strokeLinecap="round"
        />
      )}
      {scene.peg && <Peg at={at(scene.peg)} ear={P('ear.left')} sign={signs.peg} />}
      {wide && signs.elbow !== 'within' && <Ring x={P('elbow.left')[0]} y={P('elbow.left')[1]} sign={signs.elbow} small />}
      {(['ankle.left', 'ankle.right'] as const).map((j) =>
        standing ? (
          <path key={j} d={`M${P(j)[0] - (wide ? 5 : 9)} ${feet[1] + 45 * k} h${wide ? 10 : 13}`} stroke={signColor(signs.feet)} strokeWidth={3} strokeLinecap="round" />
        ) : null,
      )}
      {told && <Ring x={chest[0]} y={chest[1]} sign={signs.trunk} small />}
    </g>
  );
}

const ends = ([a, b]: readonly [Point, Point]) => ({ x1: a[0], y1: a[1], x2: b[0], y2: b[1] });

/** The peg beside the ear, tied to it. */
function Peg({ at, ear, sign }: { at: Point; ear: Point; sign: Sign }) {
  return (
    <g>
      <line {...ends([ear, at])} stroke={signColor(sign)} strokeWidth={1.4} />
      <circle cx={ear[0]} cy={ear[1]} r={1.8} fill={signColor(sign)} />
      <Ring x={at[0]} y={at[1]} sign={sign} small />
    </g>
  );
}

function Head({ at, ears, nose, k, sign, view }: { at: Point; ears: readonly [Point, Point]; nose: Point; k: number; sign: Sign; view: 'front' | 'side' }) {
  const angle = view === 'front' ? (Math.atan2(ears[1][1] - ears[0][1], ears[1][0] - ears[0][0]) * 180) / Math.PI : 0;
  const rx = (view === 'front' ? 78 : 98) * k;
  return (
    <g>
      <ellipse
        cx={at[0]}
        cy={at[1] - 8 * k}
        rx={rx}
        ry={118 * k}
        fill="#B7BFBC"
        stroke={signColor(sign)}
        strokeWidth={sign === 'within' ? 0.8 : 2}
        transform={`rotate(${angle} ${at[0]} ${at[1]})`}
      />
      <circle cx={nose[0]} cy={nose[1]} r={1.8} fill={signColor(sign)} />
    </g>
  );
}

/** The clock from above: twelve is straight ahead, the band of the instrument's heading lit, its scroll in the ring. */
export function HeadingClock({
  width,
  height,
  heading,
  turn,
  band,
  sign,
  label,
}: {
  width: number;
  height: number;
  /** Degrees to the left of straight ahead, with their standard uncertainty. */
  heading: { readonly value: number; readonly u: number } | undefined;
  /** The head's turn, degrees to the left. */
  turn: number | undefined;
  band: readonly [number, number];
  sign: Sign;
  label: string;
}) {
  const hatch = useHatch();
  const [cx, cy] = [width * 0.36, height * 0.2];
  const r = Math.min(height * 0.66, width * 0.56);
  const at = (degrees: number, radius: number): Point => [cx + radius * Math.sin((degrees * Math.PI) / 180), cy + radius * Math.cos((degrees * Math.PI) / 180)];
  const [a, b] = [at(band[0], r), at(band[1], r)];
  return (
    <Plate width={width} height={height} label={label} hatch={hatch}>
      <path d={`M${cx} ${cy} L${a.join(' ')} A${r} ${r} 0 0 0 ${b.join(' ')} Z`} fill={COLOR.lit} stroke={COLOR.edge} />
      {[12, 11, 10, 9].map((hour) => {
        const angle = (12 - hour) * 30;
        const [p, q, t] = [at(angle, r + 3), at(angle, r + 8), at(angle, r + 16)];
        return (
          <g key={hour}>
            <line {...ends([p, q])} stroke={COLOR.ink} />
            <text x={t[0]} y={t[1] + 4} fontSize={11} textAnchor="middle" fill={COLOR.soft}>
              {hour}
            </text>
          </g>
        );
      })}
      <rect x={cx - 38} y={cy - 9} width={76} height={18} rx={9} fill={BODY} />
      {heading ? (
        <Instrument at={at} r={r} heading={heading} sign={sign} />
      ) : (
        <path d={`M${cx} ${cy} L${at(0, r).join(' ')} A${r} ${r} 0 0 0 ${at(90, r).join(' ')} Z`} fill={`url(#${hatch})`} opacity={0.6} />
      )}
      <circle cx={cx} cy={cy} r={13} fill="#B7BFBC" stroke={COLOR.soft} />
      {turn !== undefined && <line {...ends([at(turn, 9), at(turn, 19)])} stroke={COLOR.ink} strokeWidth={2.4} strokeLinecap="round" />}
    </Plate>
  );
}

function Instrument({ at, r, heading, sign }: { at: (degrees: number, radius: number) => Point; r: number; heading: { readonly value: number; readonly u: number }; sign: Sign }) {
  const scroll = at(heading.value, 0.92 * r);
  return (
    <g>
      <line {...ends([at(heading.value, 0.14 * r), at(heading.value, 0.56 * r)])} stroke="#C98F3F" strokeWidth={20} strokeLinecap="round" />
      <line {...ends([at(heading.value, 0.4 * r), scroll])} stroke={COLOR.ebony} strokeWidth={4} />
      <Capsule x={scroll[0]} y={scroll[1]} half={((2 * heading.u * Math.PI) / 180) * 0.92 * r} angle={-heading.value} />
      <Ring x={scroll[0]} y={scroll[1]} sign={sign} />
    </g>
  );
}
