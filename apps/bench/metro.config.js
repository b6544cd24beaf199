const { readdirSync } = require('node:fs');
const { dirname, join, resolve } = require('node:path');
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

/** Where the page lies is known only while it opens: what asks for that must not wait, or no worker is found. */
const address = join(dirname(require.resolve('expo/package.json')), 'src/winter/ImportMetaRegistry.ts');

// Any other file runs when it is first used, not when the page opens: much of what the libraries bring is never used here.
const usual = config.transformer.getTransformOptions;
config.transformer.getTransformOptions = async (...asked) => {
  const { transform, ...rest } = await usual(...asked);
  return { ...rest, transform: { ...transform, inlineRequires: { blockList: Object.fromEntries([...eager, [address, true]]) } } };
};

module.exports = config;
