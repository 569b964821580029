import { createServer } from 'node:http';
import { ListService } from './list-service.js';
import { MailServer } from './mail-server.js';

/** The simulated outside world on one port of loopback; a service is chosen by host name. */
const port = Number(process.env['DOMATIUM_STANDINS_PORT'] || 4690);
const lists = new ListService();
const mail = new MailServer();
await mail.listen(Number(process.env['DOMATIUM_MAIL_PORT'] || 4692));

const server = createServer((request, response) => {
  if (request.url === '/healthz') return void response.writeHead(200).end('{"ok":true}');
  if (request.headers.host?.split(':')[0] === 'lists.localhost')
    return void lists.answer(request, response).catch(() => response.destroy());
  if (request.headers.host?.split(':')[0] === 'mail.localhost') return mail.answer(request, response);
  response.writeHead(404, { 'Content-Type': 'text/plain' }).end('No service has this name.');
});
server.headersTimeout = server.requestTimeout = 10_000;
server.listen(port, '127.0.0.1', () => console.log(`ready: stand-ins on ${port}`));

const stop = () => {
  mail.close();
  server.close(() => process.exit(0));
  server.closeAllConnections();
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
