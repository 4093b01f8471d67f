import type { Vec3 } from '../../core/geometry/vec3';
import { Plate } from './Plate';
import { Ring, useHatch } from './signs';
import { COLOR, type Sign, signColor } from './tokens';

/** Joints of the bow arm: mm to the player's left, forward, up, from between the shoulders. */
export interface Bones {
  readonly shoulder: Vec3;
  readonly elbow: Vec3;
  readonly wrist: Vec3;
}

export interface ArmScene extends Bones {
  readonly otherShoulder: Vec3;
  /** 1 sigma, mm. */
  readonly sigma: { readonly elbow: number; readonly wrist: number };
  /** The arm earlier in this stroke. */
  readonly earlier: readonly Bones[];
  readonly instrument?: { readonly outline: readonly Vec3[]; readonly board: readonly Vec3[]; readonly bridge: readonly [Vec3, Vec3] };
  readonly bow?: { readonly frog: Vec3; readonly tip: Vec3; readonly contact: Vec3 };
  /** Way of the frog in this stroke so far. */
  readonly way?: readonly Vec3[];
  /** The square way, from the contact outwards. */
  readonly square?: readonly [Vec3, Vec3];
}

export type ArmView = 'above' | 'front';

/** Room around the player that the plate shows, mm: to the player's right and left, behind (above) and in front (below). */
const SHOWN = { above: { right: 640, left: 560, top: -190, bottom: 720 }, front: { right: 640, left: 560, top: -420, bottom: 490 } } as const;

/** The bow arm from above (back line at the top, hatched behind) or from the front, instrument at its true heading, earlier arms thin, joints on discs of their doubt. */
export function ArmPlate({ width, height, view, scene, sign, label }: { width: number; height: number; view: ArmView; scene: ArmScene | undefined; sign: Sign; label: string }) {
  const hatch = useHatch();
  const shown = SHOWN[view];
  const k = Math.min(width / (shown.right + shown.left), height / (shown.bottom - shown.top));
  const cx = (width * shown.right) / (shown.right + shown.left);
  const cy = -shown.top * k;
  // The plate's horizontal is the player's left in both views: from above the player looks down the page.
  const P = (p: Vec3): [number, number] => [cx + p[0] * k, cy + (view === 'above' ? p[1] : -p[2]) * k];
  const points = (list: readonly Vec3[]) =>
    list
      .map(P)
      .map((p) => p.map((v) => v.toFixed(1)).join(','))
      .join(' ');
  const line = (a: Vec3, b: Vec3) => ({ x1: P(a)[0], y1: P(a)[1], x2: P(b)[0], y2: P(b)[1] });
  return (
    <Plate width={width} height={height} label={label} hatch={hatch}>
      {!scene && <rect width={width} height={height} fill={`url(#${hatch})`} opacity={0.6} />}
      {scene && (
        <>
          {view === 'above' && (
            <g>
              <rect width={width} height={cy} fill={COLOR.edge} opacity={0.16} />
              <rect y={cy - 7} width={width} height={7} fill={`url(#${hatch})`} />
              <line x1={0} x2={width} y1={cy} y2={cy} stroke={COLOR.ink} strokeWidth={1} />
              <text x={6} y={cy - 11} fontSize={11} fill={COLOR.soft}>
                back line
              </text>
            </g>
          )}
          <Torso scene={scene} view={view} P={P} k={k} />
          {scene.instrument && (
            <g>
              <polygon points={points(scene.instrument.outline)} fill="#E0B878" stroke={COLOR.edge} />
              <polygon points={points(scene.instrument.board)} fill={COLOR.ebony} />
              <line {...line(...scene.instrument.bridge)} stroke={COLOR.edge} strokeWidth={2.4} />
            </g>
          )}
          {scene.square && <line {...line(...scene.square)} stroke={COLOR.ink} strokeWidth={1.3} strokeDasharray="2 5" />}
          {scene.earlier.map((e) => (
            <polyline key={e.wrist.join()} points={points([e.shoulder, e.elbow, e.wrist])} fill="none" stroke={COLOR.ink} strokeWidth={0.8} opacity={0.22} />
          ))}
          {scene.way && scene.way.length > 1 && <polyline points={points(scene.way)} fill="none" stroke={signColor(sign)} strokeWidth={2.2} strokeLinejoin="round" />}
          {scene.bow && <line {...line(scene.bow.frog, scene.bow.tip)} stroke={COLOR.stick} strokeWidth={3} strokeLinecap="round" />}
          <Arm scene={scene} P={P} k={k} points={points} />
        </>
      )}
    </Plate>
  );
}

/** Chest and head, plain: they only say where the player stands. */
function Torso({ scene, view, P, k }: { scene: ArmScene; view: ArmView; P: (p: Vec3) => [number, number]; k: number }) {
  const [right, left] = [P(scene.shoulder), P(scene.otherShoulder)];
  const width = Math.hypot(left[0] - right[0], left[1] - right[1]);
  const middle: [number, number] = [(left[0] + right[0]) / 2, (left[1] + right[1]) / 2];
  if (view === 'above') {
    return (
      <g stroke={COLOR.soft}>
        <ellipse cx={middle[0]} cy={middle[1]} rx={width * 0.6} ry={95 * k} fill="#D0D5D2" />
        <circle cx={middle[0] + 30 * k} cy={middle[1] + 45 * k} r={88 * k} fill="#B7BFBC" />
      </g>
    );
  }
  const hip = middle[1] + 430 * k;
  return (
    <g stroke={COLOR.soft}>
      <path
        d={`M${right[0] - 12 * k} ${right[1] - 20 * k} Q${middle[0]} ${middle[1] - 70 * k} ${left[0] + 12 * k} ${left[1] - 20 * k} L${left[0] - 30 * k} ${hip} H${right[0] + 30 * k} Z`}
        fill="#D0D5D2"
      />
      <ellipse cx={middle[0] + 10 * k} cy={middle[1] - 215 * k} rx={78 * k} ry={108 * k} fill="#B7BFBC" />
    </g>
  );
}

function Arm({ scene, P, k, points }: { scene: ArmScene; P: (p: Vec3) => [number, number]; k: number; points: (list: readonly Vec3[]) => string }) {
  const bones = [scene.shoulder, scene.elbow, scene.wrist, ...(scene.bow ? [scene.bow.frog] : [])];
  return (
    <g>
      {(['elbow', 'wrist'] as const).map((joint) => (
        <circle key={joint} cx={P(scene[joint])[0]} cy={P(scene[joint])[1]} r={Math.max(7, 2 * scene.sigma[joint] * k)} fill={COLOR.ink} opacity={0.3} />
      ))}
      <polyline points={points(bones)} fill="none" stroke={COLOR.ink} strokeWidth={8} strokeLinejoin="round" strokeLinecap="round" />
      <polyline points={points(bones)} fill="none" stroke="#EBDDCB" strokeWidth={5.6} strokeLinejoin="round" strokeLinecap="round" />
      {[scene.shoulder, scene.elbow, scene.wrist].map((p, i) => (
        <Ring key={['shoulder', 'elbow', 'wrist'][i]} x={P(p)[0]} y={P(p)[1]} sign="within" small />
      ))}
    </g>
  );
}
