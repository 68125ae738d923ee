import { HeatmapChart, LineChart, ScatterChart } from 'echarts/charts';
import { GridComponent, MarkLineComponent, VisualMapComponent } from 'echarts/components';
import { init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import type { Chart } from './chart.js';
import { escaped } from './words.js';

use([LineChart, ScatterChart, HeatmapChart, GridComponent, MarkLineComponent, VisualMapComponent, SVGRenderer]);

/** A picture without its style elements. */
function withoutStyles(svg: string): string {
  const from = svg.indexOf('<style');
  if (from < 0) return svg;
  const end = svg.indexOf('</style>', from);
  return end < 0 ? svg : withoutStyles(svg.slice(0, from) + svg.slice(end + '</style>'.length));
}

/** A picture as SVG, made without a browser. @param width in pixels */
export function svgOf(chart: Chart, width = 620): string {
  const drawn = init(null, null, { renderer: 'svg', ssr: true, width, height: chart.height });
  drawn.setOption(chart.option);
  const svg = drawn.renderToSVGString();
  drawn.dispose();
  // Rules for the pointer are of no use in a picture, and pages that take no inline styles refuse them.
  const plain = withoutStyles(svg);
  // The sentence is what is read out instead of the picture.
  return plain.replace(/^<svg /, `<svg role="img" aria-label="${escaped(chart.sentence)}" `);
}
