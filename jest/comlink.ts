/** Tests pretend their workers: there is nobody to speak to through messages, so that what wraps a worker is the worker itself. */
export const wrap = <T>(worker: T): T => worker;
export const transfer = <T>(value: T): T => value;
export const proxy = <T>(value: T): T => value;
