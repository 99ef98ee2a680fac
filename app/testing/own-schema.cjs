/** Each of Jest's workers has a schema of its own, so that suites run side by side. */
if (process.env.DATABASE_URL && process.env.JEST_WORKER_ID)
  process.env.DATABASE_URL = process.env.DATABASE_URL.replace(
    /(\/hound_integration)$/,
    `$1_${process.env.JEST_WORKER_ID}`,
  );
