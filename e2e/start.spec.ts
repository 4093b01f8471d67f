import AxeBuilder from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';
import { EMPTY } from './addresses';
import { TWO_BOWS } from './films';

test.use({ baseURL: EMPTY });

/** Takes a film in for a new student. */
async function takeIn(page: Page, file: string) {
  await page.goto('/');
  await expect(page.getByText('choose some')).toBeVisible();
  await page.getByLabel('Choose a clip').setInputFiles(file);
  await page.getByLabel('Student', { exact: true }).selectOption('new');
  await page.getByLabel('Name').fill('Runa');
  await page.getByLabel('Playing since').fill('2024-09-02');
  await page.getByRole('button', { name: 'Keep and mark' }).click();
}

test('a film nobody marked is started by itself, confirmed with one key and measured', async ({ page }) => {
  await takeIn(page, TWO_BOWS);
  await expect(page.getByText('The instrument is being looked for')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Does this lie on the instrument?' })).toBeVisible({ timeout: 400_000 });
  expect((await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).analyze()).violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
  // What was found survives a reload, without being looked for again.
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Does this lie on the instrument?' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Yes, measure' })).toBeEnabled();
  await page.keyboard.press('y');
  await expect(page.getByRole('img', { name: /The strings from above: A string/ })).toBeVisible({ timeout: 400_000 });
  await expect(page.getByText('Nothing to mend was found.', { exact: false })).toBeVisible();
  await page.getByRole('tab', { name: 'Bows', exact: true }).click();
  await expect(page.getByRole('row', { name: /Go to the second bow/ })).toBeVisible();
});

test("what was found can be adjusted, and a point dragged becomes the teacher's", async ({ page }) => {
  await takeIn(page, TWO_BOWS);
  await expect(page.getByRole('heading', { name: 'Does this lie on the instrument?' })).toBeVisible({ timeout: 400_000 });
  await page.keyboard.press('j');
  await expect(page.getByRole('heading', { name: 'This is enough to measure.' })).toBeVisible();
  await page.keyboard.press('z');
  await expect(page.getByText('Step to a frame in which instrument and bow are clear')).toBeVisible();
});

test('a film without a player is refused with the reason, and can be marked', async ({ page }) => {
  await takeIn(page, 'e2e/fixtures/nobody.mp4');
  await expect(page.getByText('No player was found in this film.')).toBeVisible({ timeout: 400_000 });
  await expect(page.getByRole('heading', { name: 'Step to a frame in which instrument and bow are clear, then mark.' })).toBeVisible();

  // With another lens in mind it is looked for anew, and the lens is kept.
  await page.getByLabel('How far the lens was zoomed').selectOption('0.5');
  await expect(page.getByText('The instrument is being looked for')).toBeVisible();
  await expect(page.getByText('No player was found in this film.')).toBeVisible({ timeout: 400_000 });
  await page.reload();
  await expect(page.getByLabel('How far the lens was zoomed')).toHaveValue('0.5');
});
