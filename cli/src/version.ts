/** The version of the command line, as its package has it. */
export const VERSION = '0.15.0';
