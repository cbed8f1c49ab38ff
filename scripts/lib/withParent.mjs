/** Loaded before a program: ends it when the process that started it has ended. */
const parent = process.ppid;
setInterval(() => process.ppid !== parent && process.exit(0), 400).unref();
