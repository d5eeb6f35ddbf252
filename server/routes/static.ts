import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { readFileSync } from 'node:fs';
import { join, relative } from 'node:path';

/** The built web application: hashed assets for ever, the page itself never from a cache, any other path the page. */
export function staticRoutes(webDir: string) {
  const page = readFileSync(join(webDir, 'index.html'), 'utf8');
  return new Hono()
    .use('/assets/*', async (c, next) => {
      await next();
      if (c.res.status === 200) c.header('Cache-Control', 'public, max-age=31536000, immutable');
    })
    .use('/assets/*', serveStatic({ root: relative(process.cwd(), webDir) || '.' }))
    .use('/favicon.svg', serveStatic({ root: relative(process.cwd(), webDir) || '.' }))
    .get('/assets/*', (c) => c.text('Not found', 404))
    .get('*', (c) => {
      c.header('Cache-Control', 'no-cache');
      return c.html(page);
    });
}
