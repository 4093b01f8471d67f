import type { Browser } from 'playwright';
import type { Rubric, Stage } from '../src/core/rubric/rubric';
import type { KnownOfClip } from '../src/core/start/startMarks';
import type { Task } from '../src/core/take/task';
import type { Start } from '../src/vision/start/findStart';
import type { MeasuredFiles } from './measure-page/main';

/** A film to be measured, and how it is to be judged. */
export interface ClipToMeasure {
  readonly video: string;
  readonly marksText: string;
  readonly rubric: Rubric;
  readonly stage: Stage;
  readonly task?: Task;
}

/** Measures one film in a headless page; the same worker as in the application. */
export async function measureClip(browser: Browser, url: string, clip: ClipToMeasure, onProgress?: (done: number, total: number) => void): Promise<MeasuredFiles> {
  const { video, ...judged } = clip;
  const page = await browser.newPage();
  try {
    await page.goto(`${url}/tools/measure-page/`);
    await page.setInputFiles('#film', video);
    if (onProgress) await page.exposeFunction('tellProgress', onProgress);
    return await page.evaluate((given) => window.measureFilm(given), judged);
  } catch (error) {
    throw plain(error);
  } finally {
    await page.close();
  }
}

/** Looks for instrument and bow in a film without marks, in a headless page. */
export async function startClip(browser: Browser, url: string, video: string, known: KnownOfClip): Promise<{ start: Start; milliseconds: number }> {
  const page = await browser.newPage();
  try {
    await page.goto(`${url}/tools/measure-page/`);
    await page.setInputFiles('#film', video);
    return await page.evaluate((given) => window.startFilm(given), known);
  } catch (error) {
    throw plain(error);
  } finally {
    await page.close();
  }
}

/** The browser's wrapping of a rejected promise taken off. */
const plain = (error: unknown): Error => new Error((error as Error).message.replace(/^page\.evaluate: (Error: )?/, '').split('\n')[0]);
