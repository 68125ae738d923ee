/** The version of the service, as its package has it. */
export const VERSION = '0.15.0';
