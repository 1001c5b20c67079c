// npm run seed [-- --scale]: fills the database that npm start made; --scale adds a million tickets.
import { runBuilt } from './built-command.mjs';

runBuilt('app/seed-command.js', process.argv.slice(2));
