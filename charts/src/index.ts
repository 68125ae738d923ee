/** Figures in words and pictures, the same in files, reports and the console. */
export { escaped, svgOf } from './svg.js';
export { byNumber, type Chart, trialCharts } from './trial-charts.js';
export {
  cellWords,
  chanceWords,
  differenceName,
  differenceSentence,
  figureWords,
  fixed,
  halfOf,
  placesFor,
  scaleOf,
  signed,
  unitOf,
} from './words.js';
