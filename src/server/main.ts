import { smtpFrom } from './messages/smtp.ts';
import { demoSignIns } from './staff/demoSignIns.ts';
import { start } from './start.ts';

const port = Number(process.env.PORT ?? 4400);
const folder = process.env.ACOLYTE_DATA ?? 'data/acolyte';
const publicWrites = Number(process.env.ACOLYTE_PUBLIC_WRITES_PER_MINUTE ?? 60);

/** How many proxies stand in front, or which: “1”, “loopback”, “10.0.0.0/8”. None unless said. */
function proxiesOf(said: string | undefined): number | string | false {
  if (!said) return false;
  return /^\d+$/u.test(said) ? Number(said) : said;
}

try {
  const started = await start({
    folder,
    database: process.env.DATABASE_URL || undefined,
    port,
    origin: process.env.ACOLYTE_ORIGIN,
    demoSignIns,
    quiet: process.env.ACOLYTE_LOG === 'off',
    pages: process.env.ACOLYTE_PAGES !== 'off',
    limits: { publicWrites, signIns: 20 },
    fairShare: process.env.ACOLYTE_FAIR_SHARE !== 'off',
    listen: process.env.ACOLYTE_LISTEN,
    proxies: proxiesOf(process.env.ACOLYTE_PROXIES),
    smtp: smtpFrom(process.env),
  });
  process.stdout.write(`Acolyte answers at http://localhost:${started.port}\n`);
  let stopping = false;
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.on(signal, () => {
      if (stopping) process.exit(1);
      stopping = true;
      started.stop().then(
        () => process.exit(0),
        () => process.exit(1),
      );
    });
} catch (error) {
  process.stderr.write(
    `Acolyte could not start: ${error instanceof Error ? error.message : String(error)}\n`,
  );
  process.exit(1);
}
