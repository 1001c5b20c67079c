// npm run token -- PERSON: a new API token.
import { runBuilt } from './built-command.mjs';

runBuilt('house/access/token-command.js', process.argv.slice(2));
