import type { InstrumentModel } from '../../core/instrument/landmarks';
import { halfOutline } from '../../core/instrument/outline';
import type { StringLine } from '../../core/instrument/strings';
import type { Measured } from '../../core/measures/measures';
import type { Rubric } from '../../core/rubric/rubric';
import { Plate } from './Plate';
import { Capsule, Ring, useHatch } from './signs';
import { COLOR, type Sign, STRING_WEIGHT, signText, signTint } from './tokens';
import { degrees } from './words';

/** Where the bow lies in one frame, for the plan. */
export interface BowOnPlan {
  readonly string: string;
  readonly contact: Measured;
  readonly skew?: Measured;
  readonly position?: number;
}

export interface PlanProps {
  readonly width: number;
  readonly height: number;
  readonly model: InstrumentModel;
  readonly strings: readonly StringLine[];
  /** Family's side sign: + the tip lies over the low strings. */
  readonly side: 1 | -1;
  readonly hair: number;
  readonly bands: Rubric['bands'];
  readonly bow?: BowOnPlan;
  /** Earlier places in this stroke, oldest first. */
  readonly trail: readonly BowOnPlan[];
  /** How the bow lay in the last take at the same place of the bow. */
  readonly before?: { readonly skew: number; readonly fraction: number } | undefined;
  readonly angleSign: Sign;
  readonly contactSign: Sign;
  readonly label: string;
}

/** Pixels a millimetre of a full-size violin at a plan 300 wide. */
const SCALE_AT_300 = 2.72;
const RADIANS = Math.PI / 180;

/** The strings from squarely above: bridge left, scroll right, frog below, tip above; the bow across at its true angle and place. */
export function StringPlan({ width, height, model, strings, side, hair, bands, bow, trail, before, angleSign, contactSign, label }: PlanProps) {
  const hatch = useHatch();
  const k = ((SCALE_AT_300 * width) / 300 / model.frame.scale) * 1;
  const x0 = 0.29 * width;
  const y0 = 0.54 * height;
  const X = (x: number) => x0 + x * k;
  const Y = (y: number) => y0 - side * y * k;
  const at = (line: StringLine, x: number) => line.bridge[1] + ((line.nut[1] - line.bridge[1]) * x) / line.nut[0];
  const left = -x0 / k;
  const right = (width - x0) / k;
  const bodyScale = model.frame.scale;
  const outline = halfOutline(10).map(([u, w]) => [u * bodyScale, w * bodyScale] as const);
  const end = model.fingerboardEndX;
  const low = model.landmarks['instrument.fingerboardEnd.low'];
  const nut = model.landmarks['instrument.nut.low'];
  const boardHalf = (x: number) => low[1] + ((nut[1] - low[1]) * (x - end)) / (model.stringLength - end);
  const stripHalf = model.bridgeSpread / 2 + 4 * bodyScale;
  const { middle, good } = bands.contactFraction;
  const played = bow && strings.find((s) => s.name === bow.string);
  const foot = model.landmarks['instrument.bridgeFoot.low'][1];

  const cx = bow ? X(bow.contact.value) : 0;
  const cy = bow && played ? Y(at(played, bow.contact.value)) : y0;
  const skew = bow?.skew;
  const lean = skew ? skew.value * RADIANS : 0;
  const up = (angle: number, r: number): [number, number] => [cx + Math.sin(angle) * r, cy - Math.cos(angle) * r];
  const position = bow?.position ?? 0.5;
  const toTip = Math.min((1 - position) * hair * k, 3 * height);
  const toFrog = Math.min(position * hair * k, 3 * height);
  const arc = 0.42 * height;
  const offStick = 11 * (k / SCALE_AT_300);
  const hairWidth = 6 * bodyScale * k;
  const p = (v: [number, number]) => `${v[0].toFixed(1)} ${v[1].toFixed(1)}`;
  const wedge = skew && angleSign !== 'within' && angleSign !== 'unjudged';
  const sideways = (v: [number, number], d: number): [number, number] => [v[0] + Math.cos(lean) * d, v[1] + Math.sin(lean) * d];
  const tipEnd = up(lean, toTip);
  const frogEnd = up(lean, -toFrog);

  return (
    <Plate width={width} height={height} label={label} hatch={hatch} ground="#D3DAD7">
      <path d={bodyPath(outline, X, Y, 0)} fill={COLOR.spruce} stroke={COLOR.edge} strokeWidth={1.2} />
      <path d={bodyPath(outline, X, Y, 4 * bodyScale)} fill="none" stroke={COLOR.edge} strokeWidth={0.8} opacity={0.8} />
      <g stroke={COLOR.edge} strokeWidth={0.5} opacity={0.22}>
        {Array.from({ length: 13 }, (_, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: grain lines have no name, only their place
          <line key={i} x1={0} x2={width} y1={y0 + (i - 6) * 13 * (width / 300)} y2={y0 + (i - 6) * 13 * (width / 300)} />
        ))}
      </g>
      {[1, -1].map((sign) => (
        <g key={sign} stroke={COLOR.ink} strokeOpacity={0.42} fill={COLOR.ink} fillOpacity={0.42} strokeLinecap="round">
          <path
            d={`M${X(31 * bodyScale)} ${Y(sign * 27 * bodyScale)} C${X(24 * bodyScale)} ${Y(sign * 44 * bodyScale)} ${X(-8 * bodyScale)} ${Y(sign * 34 * bodyScale)} ${X(-36 * bodyScale)} ${Y(sign * 62 * bodyScale)}`}
            fill="none"
            strokeWidth={4.4 * (width / 300)}
          />
          <circle cx={X(31 * bodyScale)} cy={Y(sign * 24 * bodyScale)} r={5.4 * (width / 300)} stroke="none" />
          <line x1={X(-1)} x2={X(-1)} y1={Y(sign * 34 * bodyScale)} y2={Y(sign * 41 * bodyScale)} strokeWidth={1.4} />
        </g>
      ))}
      <rect x={X((middle - good) * end)} width={2 * good * end * k} y={Math.min(Y(stripHalf), Y(-stripHalf))} height={2 * stripHalf * k} fill={COLOR.lit} stroke={COLOR.edge} />
      <path d={`M${X(end)} ${Y(boardHalf(end))} L${width} ${Y(boardHalf(right))} V${Y(-boardHalf(right))} L${X(end)} ${Y(-boardHalf(end))} Z`} fill={COLOR.ebony} />
      <rect x={X(-2) - 3} width={4 * bodyScale * k * 0.9} y={Math.min(Y(foot), Y(-foot))} height={2 * foot * k} rx={3} fill={COLOR.bridge} stroke={COLOR.edge} />
      {strings.map((line) => {
        const on = line.name === bow?.string;
        return (
          <line key={line.name} x1={0} y1={Y(at(line, left))} x2={width} y2={Y(at(line, right))} stroke={on ? COLOR.ink : '#7d7c6f'} strokeWidth={STRING_WEIGHT[line.name] ?? 2} />
        );
      })}
      {strings.map((line) => {
        const on = line.name === bow?.string;
        const y = Y(at(line, -16 * bodyScale));
        const x = X(-8 * bodyScale) - 24 * (width / 300);
        return (
          <g key={line.name}>
            {on ? <circle cx={x} cy={y} r={10} fill={COLOR.ink} /> : <rect x={x - 8} y={y - 8} width={16} height={16} fill={COLOR.spruce} />}
            <text x={x} y={y + 4.3} textAnchor="middle" fontSize={12.5} fontWeight={on ? 700 : 400} fill={on ? COLOR.lit : COLOR.ink}>
              {line.name}
            </text>
          </g>
        );
      })}
      {trail.map((past, i) => {
        const line = strings.find((s) => s.name === past.string);
        if (!line || !past.skew) return null;
        const px = X(past.contact.value);
        const py = Y(at(line, past.contact.value));
        const a = past.skew.value * RADIANS;
        const pos = past.position ?? 0.5;
        const age = (i + 1) / (trail.length + 1);
        return (
          <g key={`${past.contact.value}-${pos}`} opacity={0.15 + 0.5 * age}>
            <line
              x1={px + Math.sin(a) * (1 - pos) * hair * k}
              y1={py - Math.cos(a) * (1 - pos) * hair * k}
              x2={px - Math.sin(a) * pos * hair * k}
              y2={py + Math.cos(a) * pos * hair * k}
              stroke={COLOR.ink}
              strokeWidth={0.9}
            />
            <circle cx={px} cy={py} r={2.4} fill={COLOR.ink} />
          </g>
        );
      })}
      {bow && skew && wedge && <path d={`M${cx} ${cy} L${p(up(0, 2 * height))} L${p(up(lean, 2 * height))} Z`} fill={signTint(angleSign)} opacity={0.85} />}
      {bow && !skew && <path d={`M${p(up(-0.14, height))} L${p(up(0.14, height))} L${p(up(-0.14, -height))} L${p(up(0.14, -height))} Z`} fill={`url(#${hatch})`} opacity={0.7} />}
      {bow && <line x1={cx} x2={cx} y1={0} y2={height} stroke={COLOR.ink} strokeWidth={1.3} strokeDasharray="2 5" />}
      {bow && skew && (
        <g>
          <path d={`M${p(sideways(frogEnd, offStick))} L${p(sideways(tipEnd, offStick))}`} stroke={COLOR.stick} strokeWidth={7 * (width / 300)} strokeLinecap="round" />
          <path d={`M${p(frogEnd)} L${p(tipEnd)}`} stroke="#8c8a7c" strokeWidth={hairWidth + 1.6} />
          <path d={`M${p(frogEnd)} L${p(tipEnd)}`} stroke={COLOR.sheet} strokeWidth={hairWidth} />
          {[-0.3, -0.1, 0.1, 0.3].map((d) => (
            <path key={d} d={`M${p(sideways(frogEnd, d * hairWidth))} L${p(sideways(tipEnd, d * hairWidth))}`} stroke="#b3b0a2" strokeWidth={0.6} />
          ))}
          <Arc cx={cx} cy={cy} r={arc} from={-bands.skew.good} to={bands.skew.good} fault={bands.skew.fault} />
          <path
            d={arcPath(cx, cy, arc, (skew.value - 2 * skew.u) * RADIANS, (skew.value + 2 * skew.u) * RADIANS)}
            stroke={COLOR.ink}
            strokeOpacity={0.3}
            strokeWidth={15}
            strokeLinecap="butt"
            fill="none"
          />
          <Ring x={up(lean, arc)[0]} y={up(lean, arc)[1]} sign={angleSign} />
          {angleSign !== 'unjudged' && (
            <text
              x={Math.min(cx - 8, up(lean, arc)[0] - 14)}
              y={cy - arc + 26}
              textAnchor="end"
              fontSize={14}
              fontWeight={700}
              fill={signText(angleSign)}
              stroke={COLOR.spruce}
              strokeWidth={3}
              paintOrder="stroke"
            >
              {degrees(skew.value)}
            </text>
          )}
        </g>
      )}
      {bow && (
        <>
          <Capsule x={cx} y={cy} half={2 * bow.contact.u * k} />
          <Ring x={cx} y={cy} sign={contactSign} />
        </>
      )}
      {bow && cy - (1 - position) * hair * k > -10 && <Tag x={tipEnd[0] + (tipEnd[0] + 30 < width ? 18 : -22)} y={Math.max(14, tipEnd[1])} text="tip" />}
      {bow && cy + position * hair * k < height + 30 && <Tag x={frogEnd[0] - 20} y={Math.min(height - 8, frogEnd[1])} text="frog" />}
      {before && played && <Before skew={before.skew} x={X(before.fraction * end)} y={Y(at(played, before.fraction * end))} reach={2 * height} />}
    </Plate>
  );
}

function bodyPath(outline: readonly (readonly [number, number])[], X: (x: number) => number, Y: (y: number) => number, inset: number): string {
  const top = outline.map(([u, w]) => `${X(u).toFixed(1)} ${Y(Math.max(0, w - inset)).toFixed(1)}`);
  const bottom = [...outline].reverse().map(([u, w]) => `${X(u).toFixed(1)} ${Y(-Math.max(0, w - inset)).toFixed(1)}`);
  return `M${[...top, ...bottom].join(' L')} Z`;
}

function arcPath(cx: number, cy: number, r: number, a: number, b: number): string {
  const at = (x: number) => `${(cx + Math.sin(x) * r).toFixed(1)} ${(cy - Math.cos(x) * r).toFixed(1)}`;
  return `M${at(a)} A${r} ${r} 0 0 1 ${at(b)}`;
}

/** The bow of the last take: dashed, with a square on the string. */
function Before({ skew, x, y, reach }: { skew: number; x: number; y: number; reach: number }) {
  const [dx, dy] = [Math.sin(skew * RADIANS) * reach, -Math.cos(skew * RADIANS) * reach];
  return (
    <g stroke={COLOR.sea} strokeWidth={2}>
      <line x1={x - dx} y1={y - dy} x2={x + dx} y2={y + dy} strokeDasharray="9 4" />
      <rect x={x - 4.5} y={y - 4.5} width={9} height={9} fill={COLOR.lit} />
    </g>
  );
}

function Arc({ cx, cy, r, from, to, fault }: { cx: number; cy: number; r: number; from: number; to: number; fault: number }) {
  const edge = (a: number, d: number): [number, number] => [cx + Math.sin(a) * (r + d), cy - Math.cos(a) * (r + d)];
  return (
    <g fill="none">
      <path d={arcPath(cx, cy, r, -fault * 1.25 * RADIANS, fault * 1.25 * RADIANS)} stroke={COLOR.ink} strokeWidth={1} />
      <path d={arcPath(cx, cy, r, from * RADIANS, to * RADIANS)} stroke={COLOR.edge} strokeWidth={8} />
      <path d={arcPath(cx, cy, r, from * RADIANS, to * RADIANS)} stroke={COLOR.lit} strokeWidth={6.4} />
      {[-fault, fault].map((a) => {
        const i = edge(a * RADIANS, -5);
        const o = edge(a * RADIANS, 5);
        return <line key={a} x1={i[0]} y1={i[1]} x2={o[0]} y2={o[1]} stroke={COLOR.ink} strokeWidth={1.4} />;
      })}
    </g>
  );
}

function Tag({ x, y, text }: { x: number; y: number; text: string }) {
  return (
    <text x={x} y={y} fontSize={12.5} fill={COLOR.ink} textAnchor="middle" stroke={COLOR.spruce} strokeWidth={3} paintOrder="stroke">
      {text}
    </text>
  );
}
