import { type ReactNode, useEffect, useRef, useState } from 'react';
import { Loupe } from './Loupe';
import { MarkLayer, type MarkLayerProps } from './MarkLayer';

type Point = [number, number];

/** How near a mark must be clicked to be taken up, and how far it must be moved to be placed anew, screen pixels. */
const HIT = 8;
const DRAGGED = 3;

interface MarkStageProps extends Pick<MarkLayerProps, 'wire' | 'points' | 'found' | 'guessed' | 'offered' | 'plumb' | 'selected' | 'aim'> {
  readonly size: { readonly width: number; readonly height: number };
  readonly scale: number;
  readonly picture: ImageBitmap | undefined;
  /** Where the pointer is over the film, in its pixels. */
  readonly pointer: Point | undefined;
  readonly onPointer: (at: Point | undefined) => void;
  /** Marks that a click may be meant for, and the one of them that a click places anew. */
  readonly mayBeMeant: (name: string) => boolean;
  readonly asked: string | undefined;
  readonly onTakeUp: (name: string) => void;
  /** A click beside the marks, and a mark dragged elsewhere. */
  readonly onClick: (at: Point) => void;
  readonly onDrop: (name: string, at: Point) => void;
  /** What is said over the film. */
  readonly children?: ReactNode;
}

/** The film's frame with the marks on it: click, drag, and the loupe about the pointer. */
export function MarkStage({ size, scale, picture, pointer, onPointer, mayBeMeant, asked, onTakeUp, onClick, onDrop, children, points, selected, ...layer }: MarkStageProps) {
  /** A point under way to another place. */
  const [drag, setDrag] = useState<{ name: string; from: Point; at: Point }>();
  const toPicture = (event: React.PointerEvent): Point => {
    const rect = event.currentTarget.getBoundingClientRect();
    return [(event.clientX - rect.left) / scale, (event.clientY - rect.top) / scale];
  };
  const apart = (p: readonly number[], q: readonly number[]) => Math.hypot(q[0]! - p[0]!, q[1]! - p[1]!) * scale;
  const focus = (selected && points[selected]) || pointer;
  return (
    <div
      className="relative cursor-crosshair overflow-hidden rounded-plate bg-film"
      style={{ ...size, touchAction: 'none' }}
      data-testid="film"
      onPointerMove={(event) => {
        const p = toPicture(event);
        onPointer(p);
        if (drag) setDrag({ ...drag, at: p });
      }}
      onPointerUp={() => {
        if (drag && apart(drag.from, drag.at) > DRAGGED) onDrop(drag.name, drag.at);
        setDrag(undefined);
      }}
      onPointerLeave={() => {
        onPointer(undefined);
        setDrag(undefined);
      }}
      onPointerDown={(event) => {
        event.preventDefault();
        // The slider gives the arrow keys back to the marks.
        if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
        const p = toPicture(event);
        const near = Object.entries(points).filter(([name, q]) => mayBeMeant(name) && apart(p, q) < HIT);
        const hit = near.sort(([, a], [, b]) => apart(p, a) - apart(p, b))[0]?.[0];
        if (hit !== undefined && hit !== asked) {
          onTakeUp(hit);
          setDrag({ name: hit, from: p, at: p });
        } else onClick(p);
      }}
    >
      <FrameCanvas picture={picture} {...size} />
      <MarkLayer {...layer} {...size} scale={scale} points={drag ? { ...points, [drag.name]: drag.at } : points} selected={selected} />
      {picture && focus && <Loupe picture={picture} point={focus} shown={[focus[0] * scale, focus[1] * scale]} {...size} />}
      {children}
    </div>
  );
}

function FrameCanvas({ picture, width, height }: { picture: ImageBitmap | undefined; width: number; height: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const c = canvas.current;
    if (!c || !picture) return;
    c.width = picture.width;
    c.height = picture.height;
    c.getContext('2d')!.drawImage(picture, 0, 0);
  }, [picture]);
  return <canvas ref={canvas} style={{ width, height }} className="block" />;
}
