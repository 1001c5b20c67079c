// npm run integrity: proves that no member of an umbrella runs, no reply is hidden, and the books agree. Ends with 1 where not.
import { runBuilt } from './built-command.mjs';

runBuilt('app/integrity-command.js', process.argv.slice(2));
