import type { Look } from '../../core/start/fuse';
import type { Square } from '../../core/start/square';
import type { FilmPicture } from '../film/frame';
import { mirroredPicture } from '../film/mirror';

/** Pictures of a film, and the landmark network's look at squares of them. */
export interface FrameEyes {
  /** Pictures as they were filmed. */
  pictures(frames: readonly number[]): AsyncIterable<FilmPicture>;
  /** The picture as the network sees it best; the one given is closed where another takes its place. */
  clear(picture: ImageBitmap): ImageBitmap;
  look(picture: ImageBitmap, squares: readonly Square[]): Promise<Look[]>;
  /** Poses are those of the mirrored picture. */
  readonly mirror: boolean;
}

/** The pictures of some frames as the network is to see them, in order; each is closed when the next is asked for. */
export async function* seenPictures(eyes: Pick<FrameEyes, 'pictures' | 'clear' | 'mirror'>, frames: readonly number[]): AsyncGenerator<FilmPicture> {
  for await (const { index, picture: filmed } of eyes.pictures([...frames].sort((a, b) => a - b))) {
    const picture = seenPicture(eyes, filmed);
    try {
      yield { index, picture };
    } finally {
      picture.close();
    }
  }
}

/** A picture as the network is to see it; the one given is closed where another takes its place. */
export function seenPicture({ clear, mirror }: Pick<FrameEyes, 'clear' | 'mirror'>, filmed: ImageBitmap): ImageBitmap {
  const picture = clear(filmed);
  return mirror ? mirroredPicture(picture) : picture;
}
