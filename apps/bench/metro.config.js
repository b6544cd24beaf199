const { readdirSync } = require('node:fs');
const { join, resolve } = require('node:path');
const { getDefaultConfig } = require('expo/metro-config');

const config = getDefaultConfig(__dirname);

/** Icon fonts that the component library looks for by itself: every drawing here is our own, so none is shipped. */
const ICON_FONTS = /^(@react-native-vector-icons\/|@expo\/vector-icons|react-native-vector-icons\/)/;

/** Navigators of the router that this application does not draw with: it has one frame and a slot. */
const NAVIGATORS =
  /\/expo-router\/build\/(native-tabs|layouts\/stack-utils\/toolbar|react-navigation\/(bottom-tabs|drawer|native-stack)|views\/Sitemap)[/.]/;

config.resolver.resolveRequest = (context, name, platform) => {
  if (ICON_FONTS.test(name)) return { type: 'empty' };
  // tslib's entry for `import` takes a default export that its own file does not have once bundled; its ES file is complete.
  const found = context.resolveRequest(context, name === 'tslib' ? 'tslib/tslib.es6.js' : name, platform);
  return found.type === 'sourceFile' && NAVIGATORS.test(found.filePath) ? { type: 'empty' } : found;
};

/** The sums: looked up once when their file runs, not again at each use in a loop. */
const packages = resolve(__dirname, '../../packages');
const eager = readdirSync(packages, { recursive: true })
  .filter((f) => /^[^/]+\/src\/.*\.ts$/.test(f))
  .map((f) => [join(packages, f), true]);

// Any other file runs when it is first used, not when the page opens: much of what the libraries bring is never used here.
config.transformer.getTransformOptions = async () => ({
  transform: { experimentalImportSupport: false, inlineRequires: { blockList: Object.fromEntries(eager) } },
});

module.exports = config;
