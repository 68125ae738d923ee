/** Figures in words and pictures, the same in files, reports and the console. */

export { auditCharts, probability, testMark } from './audit-charts.js';
export type { Chart } from './chart.js';
export { byNumber, trialCharts } from './trial-charts.js';
export {
  cellWords,
  chanceWords,
  differenceName,
  differenceSentence,
  escaped,
  figureWords,
  fixed,
  halfOf,
  placesFor,
  scaleOf,
  signed,
  unitOf,
} from './words.js';
