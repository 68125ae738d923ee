import { auditCharts, escaped, foundWords, probability } from '@wily-jester/charts';
import { svgOf } from '@wily-jester/charts/svg';
import type { AuditReport } from '@wily-jester/core';

/** An audit as one page that needs nothing else. */
export const pageOf = (title: string, report: AuditReport): string =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><title>${escaped(title)}</title><style>body{background:#fbf6e9;color:#1b2436;font:15px/1.5 Figtree,Inter,system-ui,sans-serif;margin:0 auto;max-width:640px;padding:32px}h1{font:600 26px/33px Fraunces,Georgia,serif}h2{font:600 19px/26px Fraunces,Georgia,serif;margin:24px 0 0}p.about{color:#5d6472;margin:2px 0 8px}table{border-collapse:collapse;font-variant-numeric:tabular-nums}td,th{border-bottom:1px solid #e6dfca;padding:4px 12px 4px 0;text-align:left}</style><h1>${escaped(report.sentence)}</h1><p class="about">${escaped(title)}: ${report.orders.toLocaleString('en')} shuffles of ${report.cards} cards.</p>${auditCharts(
    report,
  )
    .map(
      (chart) =>
        `<h2>${escaped(chart.title)}</h2><p class="about">${escaped(chart.about)}</p>${svgOf(chart, chart.id === 'places' ? 400 : 560)}<p>${escaped(chart.sentence)}</p>`,
    )
    .join('')}<h2>Tests</h2><table><tr><th>test</th><th>found</th><th>by chance</th></tr>${report.tests
    .map(
      (test) =>
        `<tr><td>${test.corrected < 0.05 ? '✗ ' : ''}${escaped(test.words)}${test.eye === 'places' ? '' : ', from the last order'}</td><td>${escaped(foundWords(test))}</td><td>${probability(test.p)}</td></tr>`,
    )
    .join('')}</table></html>\n`;
