import { useId } from 'react';
import { COLOR, type Sign, signColor } from './tokens';

/** The value of a quantity: open ring within or found, filled when confirmed. */
export function Ring({ x, y, sign, small = false }: { x: number; y: number; sign: Sign; small?: boolean }) {
  const r = small ? 4 : 5;
  return <circle cx={x} cy={y} r={r} fill={sign === 'confirmed' ? COLOR.madder : COLOR.lit} stroke={signColor(sign)} strokeWidth={small ? 1.8 : 2.2} />;
}

/** How sure: plus and minus two standard uncertainties along a direction, taller than the ring. */
export function Capsule({ x, y, half, angle = 0, thick = 15 }: { x: number; y: number; half: number; angle?: number; thick?: number }) {
  const reach = Math.max(half, thick / 2);
  return (
    <rect
      x={x - reach}
      y={y - thick / 2}
      width={2 * reach}
      height={thick}
      rx={Math.min(reach, thick / 2)}
      fill={COLOR.ink}
      opacity={0.3}
      transform={`rotate(${angle} ${x} ${y})`}
    />
  );
}

/** Hatching for what cannot be judged; give its id as a fill. */
export function HatchPattern({ id }: { id: string }) {
  return (
    <pattern id={id} width={4} height={4} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <line x1={0} y1={0} x2={0} y2={4} stroke={COLOR.ink} strokeOpacity={0.5} strokeWidth={1.1} />
    </pattern>
  );
}

export const useHatch = () => `hatch-${useId().replace(/\W/g, '')}`;

/** A finding in lists and titles: a drop of rosin, filled once confirmed, struck through when dismissed. */
export function Drop({ sign }: { sign: Sign }) {
  if (sign === 'within') {
    return (
      <svg width={14} height={17} viewBox="0 0 14 17" aria-hidden>
        <circle cx={7} cy={9} r={4.6} fill="none" stroke={COLOR.ink} strokeWidth={2} />
      </svg>
    );
  }
  if (sign === 'unjudged') return <HatchBox />;
  const color = sign === 'dismissed' ? COLOR.soft : signColor(sign);
  return (
    <svg width={14} height={17} viewBox="0 0 14 17" aria-hidden>
      <path d="M7 1.4 C8.6 5 12 7.4 12 11 A5 4.9 0 0 1 2 11 C2 7.4 5.4 5 7 1.4 Z" fill={sign === 'confirmed' ? COLOR.madder : 'none'} stroke={color} strokeWidth={1.7} />
      {sign === 'dismissed' && <line x1={1} y1={15} x2={13} y2={3} stroke={COLOR.soft} strokeWidth={1.6} />}
    </svg>
  );
}

function HatchBox() {
  const id = useHatch();
  return (
    <svg width={14} height={17} viewBox="0 0 14 17" aria-hidden>
      <defs>
        <HatchPattern id={id} />
      </defs>
      <rect x={1.5} y={3.5} width={11} height={11} fill={`url(#${id})`} stroke={COLOR.soft} />
    </svg>
  );
}

/** The bow sign: a square bracket for down, an arrowhead for up. */
export function BowSign({ x, y, direction, color = COLOR.ink }: { x: number; y: number; direction: 'down' | 'up'; color?: string }) {
  return direction === 'down' ? (
    <path d={`M${x - 4} ${y + 4} V${y - 3.4} H${x + 4} V${y + 4}`} fill="none" stroke={color} strokeWidth={1.7} />
  ) : (
    <path d={`M${x - 3.6} ${y - 4} L${x} ${y + 4} L${x + 3.6} ${y - 4}`} fill="none" stroke={color} strokeWidth={1.6} />
  );
}
