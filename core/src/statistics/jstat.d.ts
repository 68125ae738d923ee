/** The few functions of `jstat` that are used; it brings no types of its own. */
declare module 'jstat' {
  interface Distribution {
    inv(p: number, a: number, b: number): number;
  }
  const library: {
    readonly jStat: {
      readonly beta: Distribution;
      readonly studentt: { inv(p: number, degrees: number): number };
      /** The regularised incomplete beta function. */
      ibeta(x: number, a: number, b: number): number;
    };
  };
  export default library;
}
