import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { openapi } from '@wily-jester/protocol';
import express, { Router } from 'express';
import type { Config } from '../config.js';
import { handler } from './answer.js';

const escapeHtml = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign] ?? sign);

/** A readable page of the interface, made from the OpenAPI document. */
function interfacePage(nonce: string): string {
  const rows = Object.entries(openapi.paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => {
      const { summary, responses } = operation as {
        summary: string;
        responses: Record<string, { description: string }>;
      };
      const answers = Object.entries(responses).map(
        ([code, { description }]) => `<li><code>${code}</code> ${escapeHtml(description)}</li>`,
      );
      return `<section><h2><code>${method.toUpperCase()}</code> ${escapeHtml(path)}</h2><p>${escapeHtml(summary)}</p><ul>${answers.join('')}</ul></section>`;
    }),
  );
  return `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>Wily Jester: the interface</title>
<style nonce="${nonce}">body{font:15px/1.5 system-ui,sans-serif;color:#1c2233;background:#fbf6ea;max-width:52rem;margin:2rem auto;padding:0 1rem}h1{font-family:Georgia,serif}h2{font-size:1rem;margin:1.6rem 0 .2rem;border-top:1px solid #ddd3bd;padding-top:1rem}code{background:#f3ecdb;border-radius:4px;padding:0 .3em}ul{margin:.3rem 0;padding-left:1.2rem;color:#4a5263}p{margin:.2rem 0}a{color:#17706a}</style>
<h1>The interface</h1><p>${escapeHtml(openapi.info.description)}</p><p>The same for machines: <a href="/api/openapi.json">/api/openapi.json</a>. The documentation's page on the protocol plays a round with <code>curl</code>.</p>${rows.join('\n')}</html>`;
}

/** What workers that run rules may do. */
const WORKER_POLICY = "default-src 'none'; script-src 'self' 'unsafe-eval'";

/** The console with its files, the interface's page and document. */
export function pageRoutes(config: Config): Router {
  const routes = Router();
  routes.get('/api/openapi.json', (_request, response) => {
    response.json(openapi);
  });
  routes.get(['/api', '/api/'], (_request, response) => {
    response.type('html').send(interfacePage(String(response.locals.nonce)));
  });
  const folder = config.console;
  if (folder === null) return routes;
  // Rules become code in these workers. What runs there may reach nothing: no address, no page, no storage of the service.
  routes.get(/^\/assets\/(table|proof)\.worker-[\w-]+\.js$/, (_request, response, next) => {
    response.set('Content-Security-Policy', WORKER_POLICY);
    next();
  });
  routes.use('/assets', express.static(join(folder, 'assets'), { immutable: true, maxAge: '365d' }));
  const page = handler(async (_request, response) => {
    const text = await readFile(join(folder, 'index.html'), 'utf8');
    response
      .type('html')
      .set('Cache-Control', 'no-store')
      .send(text.replaceAll('__NONCE__', String(response.locals.nonce)));
  });
  routes.get('/index.html', page);
  routes.use(express.static(folder, { index: false, redirect: false }));
  // What looks like a file and is none is not found.
  routes.get(/^\/(?!api\/|assets\/|health$|metrics$)(?!.*\.[a-z0-9]{2,5}$).*/, page);
  return routes;
}
