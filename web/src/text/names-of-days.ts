import { locale } from 'virtual:date-locale';
import { setDefaultOptions } from 'date-fns';

// Names of days and months, and spans in words, in the language the page was built in; English is what date-fns has by itself.
if (locale) setDefaultOptions({ locale });
