/** Figures in words and pictures, the same in files, reports and the console. */

export { auditCharts, probability, testMark } from './audit-charts.js';
export type { Chart } from './chart.js';
export { auditCsv, trialCsv } from './csv.js';
export { byNumber } from './heat-chart.js';
export { trialCharts } from './trial-charts.js';
export {
  cellWords,
  chanceWords,
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
