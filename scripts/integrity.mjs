// npm run integrity: proves that no member of an umbrella runs and no reply is hidden. Ends with 1 where one is.
import { runBuilt } from './built-command.mjs';

runBuilt('desk/umbrellas/integrity-command.js', process.argv.slice(2));
