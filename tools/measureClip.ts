import type { Browser } from 'playwright';
import type { Rubric, Stage } from '../src/core/rubric/rubric';
import type { Task } from '../src/core/take/task';
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
    // The browser's wrapping of a rejected promise is taken off.
    throw new Error((error as Error).message.replace(/^page\.evaluate: (Error: )?/, '').split('\n')[0]);
  } finally {
    await page.close();
  }
}
