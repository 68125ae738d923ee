import { init } from 'echarts';
import type { Chart } from './chart.js';
import { escaped } from './words.js';

/** A picture as SVG, made without a browser. @param width in pixels */
export function svgOf(chart: Chart, width = 620): string {
  const drawn = init(null, null, { renderer: 'svg', ssr: true, width, height: chart.height });
  drawn.setOption(chart.option);
  const svg = drawn.renderToSVGString();
  drawn.dispose();
  // The sentence is what is read out instead of the picture.
  return svg.replace(/^<svg /, `<svg role="img" aria-label="${escaped(chart.sentence)}" `);
}
