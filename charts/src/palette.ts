/** Colours of figures: told apart with every kind of colour blindness, and never by colour alone. */
export const INK = '#1b2436';
export const FAINT = '#5d6472';
export const GRID = '#e6dfca';
export const ZERO = '#8b8674';
export const PLUM = '#6a3a63';

/** One thing against another: each with a mark of its own. */
export const ARMS = [
  { color: '#2d5f86', symbol: 'circle' },
  { color: '#a8640a', symbol: 'rect' },
  { color: '#6a3a63', symbol: 'diamond' },
  { color: '#1d6f66', symbol: 'triangle' },
  { color: '#4a5263', symbol: 'roundRect' },
  { color: '#a3322b', symbol: 'pin' },
  { color: '#3d3a8c', symbol: 'arrow' },
  { color: '#7a6a12', symbol: 'circle' },
] as const;

/** Too little, as it should be, too much: shades on which neither ink nor white can be read are left out. */
const LESS = ['#8a4c05', '#9c6b35', '#c7a171', '#dcc5a5', '#f3ead6'];
const MORE = ['#f3ead6', '#c9ccc8', '#9fb0ba', '#4f7694', '#24547a'];

function mixed(shades: readonly string[], at: number): string {
  const place = Math.max(0, Math.min(1, at)) * (shades.length - 1);
  const from = Math.min(shades.length - 2, Math.floor(place));
  const channel = (color: string, i: number): number => Number.parseInt(color.slice(1 + 2 * i, 3 + 2 * i), 16);
  const [a, b] = [shades[from] as string, shades[from + 1] as string];
  const parts = [0, 1, 2].map((i) => Math.round(channel(a, i) + (place - from) * (channel(b, i) - channel(a, i))));
  return `#${parts.map((part) => part.toString(16).padStart(2, '0')).join('')}`;
}

/** The shade of a figure from −1, much too little, to 1, much too much. */
export const shadeOf = (at: number): string => (at < 0 ? mixed(LESS, 1 + at) : mixed(MORE, at));

/** Whether ink or white is read better on a shade. */
export function textOn(shade: string): string {
  const part = (i: number): number => {
    const c = Number.parseInt(shade.slice(1 + 2 * i, 3 + 2 * i), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  };
  const light = 0.2126 * part(0) + 0.7152 * part(1) + 0.0722 * part(2);
  return (light + 0.05) / (0.018 + 0.05) > 1.05 / (light + 0.05) ? INK : '#ffffff';
}
