import { DataSource } from 'typeorm';
import { dataSourceOptions } from './data-source.js';
import { readConfig } from './platform/config.js';

/** Only for TypeORM's command line: `typeorm migration:generate -d server/dist/cli-data-source.js`. */
export default new DataSource(dataSourceOptions((await readConfig()).databaseUrl));
