import type { StringLevels, StringLine } from '../../core/instrument/strings';
import type { Measured } from '../../core/measures/measures';
import { Plate } from './Plate';
import { Capsule, Ring, useHatch } from './signs';
import { COLOR, STRING_WEIGHT } from './tokens';

export interface LevelFanProps {
  readonly width: number;
  readonly height: number;
  readonly strings: readonly StringLine[];
  readonly levels: StringLevels;
  readonly bridgeRadius: number;
  /** Played string, and the bow's inclination; absent when not judged. */
  readonly string: string | undefined;
  readonly inclination: Measured | undefined;
  readonly margin: number | undefined;
  readonly label: string;
}

/** The bridge from the scroll, low strings right: the bow inside the wedge its string leaves it. */
export function LevelFan({ width, height, strings, levels, bridgeRadius, string, inclination, margin, label }: LevelFanProps) {
  const hatch = useHatch();
  const spread = strings[0]!.bridge[1] * 2;
  const k = (3.3 * width) / 212 / (spread / 34);
  const cx = width / 2;
  const base = height * 0.52;
  const P = (y: number, z: number): [number, number] => [cx + y * k, base - z * k];
  const played = strings.findIndex((s) => s.name === string);
  const notch = played >= 0 ? strings[played]!.bridge : undefined;
  // A line through the notch at a level, out to both rims.
  const through = (level: number, y: number) => (notch ? P(y, notch[2] - Math.tan((level * Math.PI) / 180) * (y - notch[1])) : P(y, 0));
  const reach = width / k;
  const upper = played > 0 ? levels.boundary[played - 1]! : undefined;
  const lower = played >= 0 && played < levels.boundary.length ? levels.boundary[played]! : undefined;
  const open = 24;
  const crown = Array.from({ length: 21 }, (_, i) => {
    const y = -spread / 2 - 3 + ((spread + 6) * i) / 20;
    const inside = Math.max(-spread / 2, Math.min(spread / 2, y));
    const z = Math.sqrt(bridgeRadius ** 2 - inside ** 2) - Math.sqrt(bridgeRadius ** 2 - (spread / 2) ** 2) - (Math.abs(y) > spread / 2 ? 1.2 : 0.5);
    return P(y, z);
  });
  const wedge = (fill: string, opacity: number) =>
    notch && (
      <g fill={fill} opacity={opacity}>
        {[-reach, reach].map((y) => {
          const tip = P(notch[1], notch[2]);
          const a = through(upper ?? (lower ?? 0) + open, y);
          const b = through(lower ?? (upper ?? 0) - open, y);
          return <path key={y} d={`M${tip} L${a} L${b} Z`} />;
        })}
      </g>
    );
  const ringY = spread / 2 + 9;
  const ring = inclination && through(inclination.value, ringY);
  return (
    <Plate width={width} height={height} label={label} hatch={hatch}>
      {wedge(COLOR.lit, 1)}
      {!inclination && wedge(`url(#${hatch})`, 1)}
      {levels.boundary.map((level, i) => {
        const low = strings[i]!.bridge;
        const slope = Math.tan((level * Math.PI) / 180);
        const a = P(-reach, low[2] - slope * (-reach - low[1]));
        const b = P(reach, low[2] - slope * (reach - low[1]));
        return <line key={level} x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} stroke={COLOR.edge} strokeWidth={0.9} opacity={0.7} />;
      })}
      <path
        d={`M${crown.map((c) => c.map((v) => v.toFixed(1)).join(' ')).join(' L')} L${P(spread / 2 + 5, -14)} Q${P(spread / 2 - 3, -19)} ${P(spread / 2 - 1, -26)} L${P(spread / 2 + 3, -60)} H${P(-spread / 2 - 3, 0)[0]} L${P(-spread / 2 + 1, -26)} Q${P(-spread / 2 + 3, -19)} ${P(-spread / 2 - 5, -14)} Z`}
        fill={COLOR.bridge}
        stroke={COLOR.edge}
      />
      {inclination && notch && (
        <g>
          <line
            x1={through(inclination.value, -reach)[0]}
            y1={through(inclination.value, -reach)[1] - 6.5}
            x2={through(inclination.value, reach)[0]}
            y2={through(inclination.value, reach)[1] - 6.5}
            stroke={COLOR.stick}
            strokeWidth={4}
          />
          <line
            x1={through(inclination.value, -reach)[0]}
            y1={through(inclination.value, -reach)[1] - 1.6}
            x2={through(inclination.value, reach)[0]}
            y2={through(inclination.value, reach)[1] - 1.6}
            stroke={COLOR.ink}
            strokeWidth={1.6}
          />
        </g>
      )}
      {strings.map((line, i) => {
        const [x, y] = P(line.bridge[1], line.bridge[2]);
        const on = i === played;
        const ly = P(0, -10.5 + line.bridge[2])[1];
        return (
          <g key={line.name}>
            <circle cx={x} cy={y} r={1.4 + (STRING_WEIGHT[line.name] ?? 2) * 0.8} fill={on ? COLOR.ink : COLOR.soft} />
            {on && <circle cx={x} cy={ly - 0.5} r={9.5} fill={COLOR.ink} />}
            <text x={x} y={ly + 4} fontSize={12.5} fontWeight={on ? 700 : 400} textAnchor="middle" fill={on ? COLOR.lit : COLOR.ink}>
              {line.name}
            </text>
          </g>
        );
      })}
      {ring && inclination && (
        <>
          <Capsule x={ring[0]} y={ring[1] - 1.6} half={((2 * inclination.u * Math.PI) / 180) * (ringY - notch![1]) * k} angle={90} thick={13} />
          <Ring x={ring[0]} y={ring[1] - 1.6} sign="within" />
          {margin !== undefined && (
            <text x={Math.min(width - 14, ring[0] + 12)} y={ring[1] + 20} fontSize={12.5} fill={COLOR.ink} textAnchor="middle">
              {Math.max(0, margin).toFixed(0)}°
            </text>
          )}
        </>
      )}
    </Plate>
  );
}
