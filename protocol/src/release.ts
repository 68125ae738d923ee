/** The release that all parts are of: what the service, the command line and the interface say of themselves, and kept positions belong to. */
export const RELEASE = '0.22.0';
