import type { Look } from '../../core/start/fuse';
import type { Square } from '../../core/start/square';
import type { FilmPicture } from '../film/frame';
import { mirroredPicture } from '../film/mirror';

/** Pictures of a film, and the landmark network's look at squares of them. */
export interface FrameEyes {
  pictures(frames: readonly number[]): AsyncIterable<FilmPicture>;
  look(picture: ImageBitmap, squares: readonly Square[]): Promise<Look[]>;
  /** Poses are those of the mirrored picture. */
  readonly mirror: boolean;
}

/** The pictures of some frames as the network is to see them, in order; each is closed when the next is asked for. */
export async function* seenPictures(eyes: Pick<FrameEyes, 'pictures' | 'mirror'>, frames: readonly number[]): AsyncGenerator<FilmPicture> {
  for await (const { index, picture: seen } of eyes.pictures([...frames].sort((a, b) => a - b))) {
    const picture = eyes.mirror ? mirroredPicture(seen) : seen;
    try {
      yield { index, picture };
    } finally {
      picture.close();
    }
  }
}
