import type { Browser } from 'playwright';
import type { Rubric, Stage } from '../src/core/rubric/rubric';
import type { MeasuredFiles } from './measure-page/main';

/** Measures one film in a headless page; the same worker as in the application. */
export async function measureClip(
  browser: Browser,
  url: string,
  video: string,
  marksText: string,
  rubric: Rubric,
  stage: Stage,
  onProgress?: (done: number, total: number) => void,
): Promise<MeasuredFiles> {
  const page = await browser.newPage();
  try {
    await page.goto(`${url}/tools/measure-page/`);
    await page.setInputFiles('#film', video);
    if (onProgress) await page.exposeFunction('tellProgress', onProgress);
    return await page.evaluate(([text, r, s]) => window.measureFilm(text, r, s), [marksText, rubric, stage] as const);
  } catch (error) {
    // The browser's wrapping of a rejected promise is taken off.
    throw new Error((error as Error).message.replace(/^page\.evaluate: (Error: )?/, '').split('\n')[0]);
  } finally {
    await page.close();
  }
}
