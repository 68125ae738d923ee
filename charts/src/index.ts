/** Figures in words and pictures, the same in files, reports and the console. */

export { auditCharts, probability, testMark } from './audit-charts.js';
export type { Cells, Chart } from './chart.js';
export { auditCsv, trialCsv } from './csv.js';
export { byNumber, clearCells } from './heat-chart.js';
export { tablesOf, trialCharts } from './trial-charts.js';
export {
  cellWords,
  chanceWords,
  changeWords,
  differenceName,
  differenceSentence,
  escaped,
  figureWords,
  fixed,
  foundWords,
  halfOf,
  headlineSentence,
  placesFor,
  scaleOf,
  signed,
  unitOf,
} from './words.js';
export { type Worth, type WorthStep, worthChart } from './worth-chart.js';
