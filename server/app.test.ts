import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { describe, expect, it } from 'vitest';
import { createApp } from './app';

const folder = mkdtempSync(join(tmpdir(), 'served-'));
writeFileSync(join(folder, 'index.html'), '<!doctype html><title>page</title>');
mkdirSync(join(folder, 'demo'));
writeFileSync(join(folder, 'demo', 'index.json'), '{}');
const root = relative(process.cwd(), folder);

describe('server', () => {
  it('lets nothing leave the origin', async () => {
    const response = await createApp(root).request('/');
    const policy = response.headers.get('content-security-policy')!;
    expect(policy).toContain("default-src 'self'");
    expect(policy).toContain("connect-src 'self' blob:");
    expect(policy).not.toMatch(/https?:|\*|unsafe-eval'(?<!wasm-unsafe-eval')/);
    expect(response.headers.get('cross-origin-opener-policy')).toBe('same-origin');
    expect(response.headers.get('referrer-policy')).toBe('no-referrer');
  });
  it('answers paths of the application with its page, and missing files with 404', async () => {
    const app = createApp(root);
    expect(await (await app.request('/takes/1/review')).text()).toContain('page');
    expect((await app.request('/assets/none.js')).status).toBe(404);
  });
  it('offers the demo only when told to', async () => {
    expect((await createApp(root, join(root, 'demo')).request('/demo/index.json')).headers.get('content-type')).toContain('json');
    expect((await createApp(join(root, 'demo')).request('/demo/other.json')).status).toBe(404);
  });
});
