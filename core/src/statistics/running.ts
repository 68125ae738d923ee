/** Numbers that come one after the other: their mean, and how far it may be off. */
export class Running {
  count = 0;
  private sum = 0;
  private squares = 0;

  add(value: number): void {
    this.count++;
    this.sum += value;
    this.squares += value * value;
  }
  /** 0 where there is none. */
  get mean(): number {
    return this.count === 0 ? 0 : this.sum / this.count;
  }
  /** The standard error of the mean; infinite below two numbers. */
  get error(): number {
    const { count, sum, squares } = this;
    if (count < 2) return Number.POSITIVE_INFINITY;
    return Math.sqrt(Math.max(0, squares - sum ** 2 / count) / (count - 1) / count);
  }
}
