import { EditorView } from '@codemirror/view';

/** The editor in our own look: the same code as on other pages, and its margins. */
export const look = EditorView.theme({
  '&': { height: '100%', backgroundColor: 'var(--code)', color: 'var(--ink)', borderRadius: '16px' },
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': {
    fontFamily: 'var(--mono)',
    fontSize: '12.5px',
    lineHeight: '19px',
    fontVariantLigatures: 'none',
    borderRadius: '16px',
  },
  '.cm-content': { padding: '8px 0 40px', caretColor: 'var(--ink)' },
  '.cm-line': { padding: '0 16px 0 6px' },
  '.cm-cursor': { borderLeftWidth: '2px', borderLeftColor: 'var(--plum)' },
  '.cm-gutters': { backgroundColor: 'var(--code)', border: '0', color: '#6e6856', fontSize: '11px' },
  '.cm-activeLine': { backgroundColor: '#6b3a6308' },
  '.cm-activeLineGutter': { backgroundColor: 'transparent' },
  '.cm-lineNumbers .cm-gutterElement': { minWidth: '34px', padding: '0 6px 0 2px' },
  '.cm-foldGutter .cm-gutterElement': { width: '12px', cursor: 'pointer', color: '#6e6856' },
  '.cm-foldPlaceholder': { backgroundColor: 'var(--paper-2)', border: '1px solid var(--line)', color: 'var(--ink-2)' },
  '.cm-selectionBackground, &.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground': {
    backgroundColor: '#cfe9e4',
  },
  '.cm-matchingBracket, &.cm-focused .cm-matchingBracket': {
    backgroundColor: '#e9dfe7',
    outline: '1px solid var(--plum)',
  },
  '.cm-selectionMatch': { backgroundColor: '#e4f1ee' },
  '.cm-searchMatch': { backgroundColor: '#f7e8cb', outline: '1px solid var(--marigold)' },
  '.cm-searchMatch-selected': { backgroundColor: 'var(--soft-marigold)' },
  '.cm-panels': {
    backgroundColor: 'var(--paper)',
    color: 'var(--ink)',
    borderBottom: '1px solid var(--line)',
    fontFamily: 'var(--sans)',
  },
  '.cm-panel input, .cm-panel button': { fontFamily: 'var(--sans)', fontSize: '13px' },
  '.cm-button': {
    backgroundImage: 'none',
    backgroundColor: 'var(--code)',
    border: '1px solid var(--field)',
    borderRadius: '8px',
  },
  '.cm-textfield': { backgroundColor: 'var(--code)', border: '1px solid var(--field)', borderRadius: '8px' },
  '.cm-tooltip': { border: '0', backgroundColor: 'transparent' },
});
