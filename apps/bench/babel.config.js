module.exports = (api) => {
  api.cache(true);
  // The library's own plugin: what is named is imported, not the whole library.
  return { presets: ['babel-preset-expo'], plugins: ['react-native-paper/babel'] };
};
