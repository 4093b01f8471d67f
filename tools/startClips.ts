import type { Scenario, View } from '../synth/presets/scenario';
import { variedPlace, variedScenario } from '../synth/presets/variety';

/** Players the landmark network has not learnt from begin here; their instruments are unlike one another. */
const FIRST_SEED = 30_001;
const FILMS = [
  { width: 960, height: 540, bitrate: 700_000 },
  { width: 1280, height: 720, bitrate: 1_200_000 },
  { width: 960, height: 540, bitrate: 350_000 },
  { width: 720, height: 1280, bitrate: 1_200_000 },
] as const;
/** Views in which an instrument can be found. */
const VIEWS: readonly View[] = ['front-above', 'scroll-side', 'front-above', 'bow-side', 'whole-body'];

/** Films of few frames, each of another player, room, light and size: enough to be started from, and quickly drawn. */
export function startScenarios(count: number): Scenario[] {
  return Array.from({ length: count }, (_, i) => {
    const seed = FIRST_SEED + i;
    const varied = variedScenario(seed);
    return {
      ...varied,
      ...FILMS[i % FILMS.length]!,
      name: 'start',
      framesPerSecond: 2,
      view: VIEWS[i % VIEWS.length]!,
      fieldOfView: variedPlace(seed, 0).fieldOfView,
      leftHanded: i % 8 === 7,
    };
  });
}
