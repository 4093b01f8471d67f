import { expect, test } from '@playwright/test';

test.beforeEach(async ({ page }) => {
  await page.goto('/');
  await expect(page.getByText('choose some')).toBeVisible();
});

for (const [file, reason] of [
  ['text.mp4', /not a film/],
  ['empty.mp4', /file is empty/],
  ['truncated.mp4', /breaks off|not a film|damaged/],
  ['sound-only.mp4', /only sound/],
  ['text.png', /could not be read.*PNG or JPEG/],
  ['hevc.mov', /cannot decode HEVC.*most compatible/],
] as const) {
  test(`${file} is refused with the reason and what to do`, async ({ page }) => {
    await page.getByLabel('Choose a clip').setInputFiles(`e2e/fixtures/${file}`);
    const alert = page.getByRole('alert');
    await expect(alert).toContainText(`${file} was not taken in.`);
    await expect(alert).toContainText(reason);
    await expect(page.getByRole('dialog')).toHaveCount(0);
  });
}

for (const [file, facts] of [
  ['small.webm', '320 × 180'],
  ['rotated.mp4', '180 × 320'],
  ['uneven.mp4', '320 × 180'],
  ['still.jpg', '640 × 360'],
] as const) {
  test(`${file} is taken in upright`, async ({ page }) => {
    await page.getByLabel('Choose a clip').setInputFiles(`e2e/fixtures/${file}`);
    await expect(page.getByRole('dialog')).toContainText(facts);
    await page.getByRole('button', { name: 'Keep and mark' }).click();
    await expect(page.getByText('Step to a frame in which instrument and bow are clear')).toBeVisible();
    const shape = () =>
      page
        .locator('canvas')
        .first()
        .evaluate((c: HTMLCanvasElement) => `${c.width} × ${c.height}`);
    await expect.poll(shape).toBe(facts);
  });
}
