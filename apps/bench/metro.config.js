const { getDefaultConfig } = require('expo/metro-config');

const config = getDefaultConfig(__dirname);

/** Icon fonts that the component library looks for by itself: every drawing here is our own, so none is shipped. */
const ICON_FONTS = /^(@react-native-vector-icons\/|@expo\/vector-icons|react-native-vector-icons\/)/;

config.resolver.resolveRequest = (context, name, platform) => {
  if (ICON_FONTS.test(name)) return { type: 'empty' };
  // tslib's entry for `import` takes a default export that its own file does not have once bundled; its ES file is complete.
  return context.resolveRequest(context, name === 'tslib' ? 'tslib/tslib.es6.js' : name, platform);
};

module.exports = config;
