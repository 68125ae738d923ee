import { Counter, collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';

/** The service's figures, in the text form of Prometheus. */
export class Metrics {
  readonly registry = new Registry();
  readonly choices = new Counter({
    name: 'wily_choices_total',
    help: 'Choices carried out',
    labelNames: ['by'],
    registers: [this.registry],
  });
  readonly refusals = new Counter({
    name: 'wily_refusals_total',
    help: 'Choices refused',
    labelNames: ['kind'],
    registers: [this.registry],
  });
  readonly faults = new Counter({
    name: 'wily_faults_total',
    help: 'Faults of sheets at live tables',
    registers: [this.registry],
  });
  readonly tellingFailures = new Counter({
    name: 'wily_telling_failures_total',
    help: 'Times that a viewer could not be told of a step',
    registers: [this.registry],
  });
  readonly thoughts = new Counter({
    name: 'wily_thoughts_total',
    help: 'Times that this process thought for a seat',
    registers: [this.registry],
  });
  readonly sockets = new Gauge({ name: 'wily_sockets', help: 'Open WebSockets', registers: [this.registry] });
  readonly requests = new Histogram({
    name: 'wily_request_seconds',
    help: 'Time to answer a request, in seconds',
    labelNames: ['method', 'status'],
    buckets: [0.002, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 1, 5],
    registers: [this.registry],
  });

  constructor() {
    collectDefaultMetrics({ register: this.registry });
  }

  watchTables(count: () => number): void {
    new Gauge({
      name: 'wily_tables_loaded',
      help: 'Tables in memory',
      registers: [this.registry],
      collect() {
        this.set(count());
      },
    });
  }
}
