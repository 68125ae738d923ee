/** The rule sheet language, loaded when a command first needs it: its parser takes half a second to get ready. */
export const language = (): Promise<typeof import('@wily-jester/motley')> => import('@wily-jester/motley');
