/** Tests are written in metric units and for a week that begins on Monday, whatever language the machine has; some have no browser. */
if (typeof navigator !== 'undefined') Object.defineProperty(navigator, 'language', { value: 'en-GB', configurable: true });
