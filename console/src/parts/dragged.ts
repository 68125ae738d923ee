/** What a card that is dragged is known by, among all that may be dragged over a page. */
export const CARD = 'text/x-card';
