import fc from 'fast-check';

/** Properties draw the same cases on every run; FULLER_SEED draws others, to look for new ones. */
fc.configureGlobal({ seed: Number(process.env['FULLER_SEED'] ?? 4600) });
