import type { AddressInfo } from 'node:net';
import { serve } from '@hono/node-server';
import { createApp } from './app';

export interface Listening {
  readonly url: string;
  close(): Promise<void>;
}

/** Starts the server on a port of this machine only; port 0 takes any free one. */
export function listen(folder: string, port: number, demo?: string): Promise<Listening> {
  return new Promise((resolve, reject) => {
    const server = serve({ fetch: createApp(folder, demo).fetch, port, hostname: '127.0.0.1' }, (info: AddressInfo) => {
      resolve({
        url: `http://127.0.0.1:${info.port}`,
        close: () => new Promise((done) => server.close(() => done())),
      });
    });
    server.on('error', reject);
  });
}
