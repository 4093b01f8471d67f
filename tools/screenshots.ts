import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { listen } from '../server/listen';
import { startBrowser } from './browser';
import { CAST, DEMO_TAKES } from './demoCast';
import { contactSheet, stills } from './synth';

const FOLDER = 'docs/screenshots';

/** One picture of each main view, made from the demo. Needs a build. */
async function main(): Promise<void> {
  mkdirSync(FOLDER, { recursive: true });
  const server = await listen('dist', 0, 'demo');
  const browser = await startBrowser();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const shoot = async (name: string) => {
    await page.waitForTimeout(500);
    await page.screenshot({ path: `${FOLDER}/${name}.png` });
    process.stdout.write(`${FOLDER}/${name}.png\n`);
  };
  try {
    await page.goto(server.url);
    await page
      .getByText(/of \d+ pictures/)
      .first()
      .waitFor();
    await page.getByRole('link', { name: /before the ferry/ }).click();
    await page.getByText('s left').waitFor();
    await shoot('measuring');
    await page.goto(server.url);
    // All that came with marks are measured.
    const marked = JSON.parse(readFileSync('demo/index.json', 'utf8')).takes.filter((t: { marks?: string }) => t.marks).length;
    await page.waitForFunction((n) => document.querySelectorAll('main li svg[role="img"]').length >= n, marked, { timeout: 600_000 });
    await page.getByRole('link', { name: /before the ferry/ }).click();
    await page.locator('canvas[data-frame]').waitFor();
    await shoot('review');
    await page.keyboard.press('c');
    await shoot('review-after-a-verdict');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('f');
    // The curve of the bow goes with its tip; the place of the bow is a focus of its own.
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('f');
    await page.getByRole('link', { name: 'Sheet for the family' }).click();
    await page.locator('article canvas[data-frame]').waitFor();
    await page.setViewportSize({ width: 1280, height: 1290 });
    await shoot('sheet');
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto(`${server.url}/students/ilvi`);
    await page.getByRole('img', { name: /Bow at the tip/ }).waitFor();
    await shoot('student');
    await page.goto(`${server.url}/takes/sunniva-tune`);
    await page.locator('canvas[data-frame]').waitFor();
    await page.keyboard.press(']');
    await shoot('review-stray-strings');
    await page.goto(server.url);
    await page.getByRole('link', { name: /before the ferry/ }).waitFor();
    await shoot('desk');
    await page.goto(`${server.url}/takes/joss-left/prepare`);
    await page.getByRole('button', { name: 'Yes, measure' }).waitFor({ timeout: 300_000 });
    await page.getByText('This view shows').waitFor();
    await shoot('start-without-marks');
    await page.goto(`${server.url}/rubrics/middle-of-strip`);
    await page.getByLabel('Bow angle, fault beyond').fill('18');
    await page.getByText('would be judged otherwise').waitFor();
    await shoot('rubrics');
    await page.goto(`${server.url}/takes/ilvi-long-bows/prepare`);
    await page.getByText('the wire sits').waitFor();
    const film = (await page.getByTestId('film').boundingBox())!;
    await page.mouse.move(film.x + film.width * 0.57, film.y + film.height * 0.45);
    await shoot('prepare');
    await page.goto(`${server.url}/takes/ilvi-long-bows/prepare?mark=hand&t=1.52`);
    await page.getByText('Six points in one clear frame').waitFor();
    await shoot('prepare-hand');
    await page.goto(`${server.url}/takes/ilvi-long-bows`);
    await page.getByRole('tab', { name: 'Hand' }).click();
    // Its three pictures are decoded one after the other.
    await page.waitForFunction(() => {
      const hands = [...document.querySelectorAll<HTMLCanvasElement>('button[aria-label^="The hand at"] canvas')];
      return hands.length > 0 && hands.every((c) => c.getContext('2d')!.getImageData(c.width / 2, c.height / 2, 1, 1).data[3]! > 0);
    });
    await shoot('review-hand');
    await page.goto(`${server.url}/takes/oda-whole`);
    await page.getByRole('tab', { name: 'Body' }).click();
    await shoot('review-body');
    await page.goto(`${server.url}/takes/tavi-ready`);
    await page.locator('canvas[data-frame]').waitFor();
    await page.getByRole('tab', { name: 'Body' }).click();
    await page.getByRole('button', { name: /^without the left hand/ }).click();
    await shoot('review-holds');
    await page.goto(`${server.url}/takes/marek-drift`);
    await page.locator('canvas[data-frame]').waitFor();
    await page.keyboard.press('b');
    await shoot('review-against-the-last-take');
    await page.goto(`${server.url}/takes/ilvi-tube-glide`);
    await page.locator('canvas[data-frame]').waitFor();
    await page.keyboard.press('ArrowRight');
    await shoot('review-nothing-to-mend');
    await page.setViewportSize({ width: 1024, height: 768 });
    await page.goto(`${server.url}/takes/ilvi-long-bows`);
    await page.locator('canvas[data-frame]').waitFor();
    await shoot('review-1024');
    const cast = CAST.map((student) => ({ student, scenario: DEMO_TAKES.find((t) => t.studentId === student.id)!.scenario }));
    const pictures = await stills(cast.map(({ scenario }) => ({ scenario, t: 1.4 })));
    writeFileSync(
      `${FOLDER}/students.png`,
      await contactSheet(pictures.map((png, i) => ({ png, label: `${cast[i]!.student.name}, ${cast[i]!.student.family} ${cast[i]!.student.size}` }))),
    );
    process.stdout.write(`${FOLDER}/students.png\n`);
  } finally {
    await browser.close();
    await server.close();
  }
}

main().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
