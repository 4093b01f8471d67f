import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { secureHeaders } from 'hono/secure-headers';

/**
 * Serves a built folder with headers that keep everything on this origin: no request may leave it, since the
 * films show children. With a demo folder, its files are offered under /demo.
 */
export function createApp(folder: string, demo?: string): Hono {
  const app = new Hono();
  app.use(
    secureHeaders({
      contentSecurityPolicy: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        // Radix and the toasts write style elements.
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'blob:', 'data:'],
        mediaSrc: ["'self'", 'blob:'],
        connectSrc: ["'self'", 'blob:'],
        workerSrc: ["'self'", 'blob:'],
        fontSrc: ["'self'"],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
      },
      crossOriginOpenerPolicy: 'same-origin',
      crossOriginEmbedderPolicy: 'require-corp',
      crossOriginResourcePolicy: 'same-origin',
      referrerPolicy: 'no-referrer',
      permissionsPolicy: { geolocation: false, microphone: ['self'], camera: ['self'] },
    }),
  );
  if (demo) app.use('/demo/*', serveStatic({ root: demo, rewriteRequestPath: (path) => path.replace(/^\/demo/, '') }));
  app.use('*', serveStatic({ root: folder }));
  // Paths of the application are answered with its page; a missing file is not.
  app.get('*', async (c, next) => {
    if (/\.[a-z0-9]+$/i.test(c.req.path)) return c.notFound();
    return serveStatic({ root: folder, path: 'index.html' })(c, next);
  });
  return app;
}
