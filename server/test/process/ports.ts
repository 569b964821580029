/**
 * The ports of every test that starts real processes, in one place: tests run two at a time, and a port that two of them
 * took made whichever came second fail. An application tells its figures on the three ports 70 above its own.
 */
export const PORTS = {
  open: { app: 4731, edge: 4733, tls: 4735, plain: 4737 },
  faults: { app: 4741, edge: 4781, database: 4742 },
  running: { app: 4751, edge: 4786 },
  hostile: { app: 4761 },
  follower: { killed: 4791, many: 4797, role: 4798, other: 4799 },
  visitors: { edge: 4796 },
} as const;

const taken = Object.values(PORTS).flatMap((ports) =>
  Object.entries(ports).flatMap(([name, port]) => (name === 'app' ? [port, port + 70, port + 71, port + 72] : [port])),
);
if (new Set(taken).size !== taken.length) throw new Error(`Two tests take one port: ${taken.join(', ')}.`);
