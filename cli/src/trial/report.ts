import {
  type Chart,
  cellWords,
  chanceWords,
  changeWords,
  differenceName,
  differenceSentence,
  escaped,
  figureWords,
  tablesOf,
} from '@wily-jester/charts';
import { svgOf } from '@wily-jester/charts/svg';
import type { TrialFigures } from '@wily-jester/core';

const STYLE = `body{background:#fbf6e9;color:#1b2436;font:15px/1.5 Figtree,Inter,system-ui,sans-serif;margin:0 auto;max-width:880px;padding:32px}
h1{font:600 28px/35px Fraunces,Georgia,serif}h2{font:600 19px/26px Fraunces,Georgia,serif;margin:28px 0 0}p.about{color:#5d6472;margin:2px 0 8px}
table{border-collapse:collapse;font-variant-numeric:tabular-nums;margin:8px 0}td,th{border-bottom:1px solid #e6dfca;padding:4px 14px 4px 0;text-align:left}
td.n{text-align:right}details{margin:4px 0 0}summary{color:#1d6f66;cursor:pointer}footer{border-top:1px solid #e6dfca;color:#5d6472;margin-top:32px;padding-top:8px}
.wide{overflow-x:auto}`;

/** A report as one page that needs nothing else: sentences, pictures, and every figure as a table. */
export function reportOf(title: string, figures: TrialFigures, charts: readonly Chart[], how: string): string {
  const form = (tally: string) => figures.arms[0]?.tallies.find(({ name }) => name === tally)?.form ?? 'number';
  const headline = figures.differences.find(({ tally }) => tally === figures.headline.tally);
  const first = headline ? differenceSentence(headline, form(headline.tally)) : title;
  const pictures = charts.map(
    (chart) =>
      `<section><h2>${escaped(chart.title)}</h2><p class="about">${escaped(chart.about)}</p><div class="wide">${svgOf(chart, 760)}</div><p>${escaped(chart.sentence)}</p></section>`,
  );
  const tables = figures.arms.map(
    ({ label, tallies }) =>
      `<details><summary>All figures of ${escaped(label)}</summary><div class="wide"><table><tr><th>what</th><th>of</th><th>figure</th><th>times</th></tr>${tallies
        .flatMap(({ name, form: of, cells }) =>
          cells.map(
            (cell) =>
              `<tr><td>${escaped(name)}</td><td>${escaped(cellWords(cell))}</td><td class="n">${escaped(figureWords(cell, of))}</td><td class="n">${cell.times.toLocaleString('en')}</td></tr>`,
          ),
        )
        .join('')}</table></div></details>`,
  );
  // Of tables only the cells that surely differ: the others are in their pictures, and in the CSV.
  const byCell = new Set(tablesOf(figures).map(({ name }) => name));
  const told = figures.differences.filter(({ tally, isClear }) => isClear || !byCell.has(tally));
  const differences =
    told.length === 0
      ? ''
      : `<h2>Differences</h2><div class="wide"><table><tr><th>what</th><th>between</th><th>difference</th><th>by chance</th></tr>${told
          .map(
            (of) =>
              `<tr><td>${escaped(differenceName(of))}</td><td>${escaped(`${of.arm} less ${of.against}`)}</td><td class="n">${escaped(changeWords(of, form(of.tally)))}</td><td>${chanceWords(of.byChance)}</td></tr>`,
          )
          .join('')}</table></div>`;
  return `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(title)}</title><style>${STYLE}</style><h1>${escaped(first)}</h1><p class="about">${escaped(title)}. ± is a 95 % interval with games as the unit; ${figures.games.toLocaleString('en')} games.</p>${pictures.join('')}${differences}${tables.join('')}<footer>${escaped(how)}</footer></html>\n`;
}
