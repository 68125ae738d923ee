import type { SheetProblem } from '@wily-jester/protocol';
import { Router } from 'express';
import { demandDeveloper } from '../access/rights.js';
import { compileApart } from '../sheets/compiler.js';
import { addSheet, deleteSheet, listSheets, settingsWith, showSheet } from '../sheets/shelf.js';
import type { Space } from '../storage/space.js';
import { checked } from '../validate.js';
import { type Answerer, fromPath, handler } from './answer.js';

/** Sheets: list, show, check, add. */
export function sheetRoutes(answer: Answerer, space: Space): Router {
  const routes = Router();
  routes.get(
    '/',
    handler(async (request, response) => {
      await demandDeveloper(request);
      answer.send(response, 'sheetList', { sheets: await listSheets() });
    }),
  );
  routes.post(
    '/',
    handler(async (request, response) => {
      const developer = await demandDeveloper(request);
      space.demandForMore();
      const { sheet, added } = await addSheet(developer, checked('sheetText', request.body));
      answer.send(response, 'sheet', sheet, added ? 201 : 200);
    }),
  );
  routes.post(
    '/check',
    handler(async (request, response) => {
      const developer = await demandDeveloper(request);
      const { source, rehearsals } = checked('sheetText', request.body);
      const compiled = await compileApart(developer, source, rehearsals);
      const problems: SheetProblem[] = [...compiled.problems, ...compiled.rehearsalProblems];
      answer.send(response, 'check', {
        ok: !problems.some((p) => p.severity === 'error'),
        lines: compiled.lines,
        problems,
      });
    }),
  );
  routes.get(
    '/:sheet',
    handler(async (request, response) => {
      await demandDeveloper(request);
      answer.send(response, 'sheet', await showSheet(fromPath(request, 'sheet')));
    }),
  );
  routes.delete(
    '/:sheet',
    handler(async (request, response) => {
      await demandDeveloper(request);
      await deleteSheet(fromPath(request, 'sheet'));
      response.status(204).end();
    }),
  );
  routes.post(
    '/:sheet/settings',
    handler(async (request, response) => {
      await demandDeveloper(request);
      const { settings } = checked('settingsWish', request.body);
      answer.send(response, 'settings', { settings: await settingsWith(fromPath(request, 'sheet'), settings) });
    }),
  );
  return routes;
}
