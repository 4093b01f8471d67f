import { useEffect, useRef, useState } from 'react';
import type { TakeMeasures } from '../../../core/take/analyse';
import type { OpenFilm } from '../../film/useFilm';
import type { HandSquare } from './handScene';

/** The hand in the film at frog, middle and tip, side by side. */
export function HandStrip({
  film,
  take,
  squares,
  width,
  onSeek,
}: {
  film: OpenFilm;
  take: TakeMeasures;
  squares: readonly HandSquare[];
  width: number;
  onSeek: (t: number) => void;
}) {
  const size = Math.floor((width - 8) / 3);
  return (
    <div className="flex gap-1">
      {(['frog', 'middle', 'tip'] as const).map((place) => {
        const square = squares.find((s) => s.place === place);
        return (
          <button
            key={place}
            type="button"
            className="relative overflow-hidden rounded-plate border border-edge bg-film"
            style={{ width: size, height: size }}
            disabled={!square}
            onClick={() => square && onSeek(take.frames[square.index]!.t)}
            aria-label={square ? `The hand at the ${place}, go there` : `No bow reaches the ${place}`}
          >
            {square && <HandPicture film={film} take={take} square={square} size={size} />}
            <span className="absolute bottom-0 left-0 bg-film/80 px-1 text-label leading-4 text-white">{place}</span>
          </button>
        );
      })}
    </div>
  );
}

function HandPicture({ film, take, square, size }: { film: OpenFilm; take: TakeMeasures; square: HandSquare; size: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [failed, setFailed] = useState(false);
  const { index, x, y, side } = square;
  useEffect(() => {
    let gone = false;
    film
      .frame(take.frames[index]!.frame)
      .then((picture) => {
        const c = canvas.current?.getContext('2d');
        if (!gone && c) {
          const k = picture.width / take.solution.camera.width;
          // Left-handed takes are measured in the mirror.
          const left = take.mirrored ? take.solution.camera.width - x - side : x;
          c.drawImage(picture, left * k, y * k, side * k, side * k, 0, 0, c.canvas.width, c.canvas.height);
        }
        picture.close();
      })
      .catch(() => setFailed(true));
    return () => {
      gone = true;
    };
  }, [film, take, index, x, y, side]);
  return failed ? null : <canvas ref={canvas} width={2 * size} height={2 * size} style={{ width: size, height: size }} />;
}
