const { getDefaultConfig } = require('expo/metro-config');

const config = getDefaultConfig(__dirname);

/** tslib's entry for `import` takes a default export that its own file does not have once bundled; its ES file is complete. */
config.resolver.resolveRequest = (context, name, platform) =>
  context.resolveRequest(context, name === 'tslib' ? 'tslib/tslib.es6.js' : name, platform);

module.exports = config;
