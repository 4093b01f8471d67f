import { existsSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { listen } from '../server/listen';

const { values } = parseArgs({ options: { port: { type: 'string', default: '4173' } } });
if (!existsSync('dist/index.html')) {
  process.stderr.write('The application is not built yet. Run "npm run demo", which builds and starts it.\n');
  process.exit(1);
}
let port = Number(values.port);
for (let tries = 0; ; tries++) {
  try {
    const server = await listen('dist', port, existsSync('demo/index.json') ? 'demo' : undefined);
    process.stdout.write(`Gestometra is at ${server.url}\nStop it with Ctrl+C.\n`);
    break;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE' || tries > 20) throw error;
    port++;
  }
}
