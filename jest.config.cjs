/** Two worlds: plain Node for core, contract, server, tools and outside checks; jest-expo for the application. */
const node = {
  testEnvironment: 'node',
  transform: {
    '\\.[jt]sx?$': [
      'babel-jest',
      {
        configFile: false,
        babelrc: false,
        presets: [['@babel/preset-env', { targets: { node: 'current' } }], '@babel/preset-typescript'],
      },
    ],
  },
  transformIgnorePatterns: ['/node_modules/(?!(uuid|canonicalize)/)'],
};
module.exports = {
  // A guard against tests that hang, not a measure: on a busy machine a slow test is not a wrong one.
  testTimeout: 120_000,
  projects: [
    { ...node, displayName: 'unit', testMatch: ['<rootDir>/packages/**/*.test.ts', '<rootDir>/tools/**/*.test.ts'] },
    { ...node, displayName: 'outside', testMatch: ['<rootDir>/tests/outside/**/*.test.ts'] },
    { ...node, displayName: 'browser', testMatch: ['<rootDir>/tests/browser/**/*.test.ts'] },
    { ...node, displayName: 'server', testMatch: ['<rootDir>/tests/server/**/*.test.ts'] },
    // The same tests of the interface again, through a proxy that spreads the requests over two servers.
    {
      ...node,
      displayName: 'pair',
      setupFiles: ['<rootDir>/tests/server/pair-env.cjs'],
      testMatch: ['<rootDir>/tests/server/{calendar,classify,kept,log,people,read-models,sign}.test.ts'],
    },
    {
      displayName: 'bench',
      preset: 'jest-expo/web',
      rootDir: 'apps/bench',
      setupFiles: ['<rootDir>/jest-browser.cjs'],
      moduleNameMapper: { '^react-native$': 'react-native-web' },
      testMatch: ['<rootDir>/src/**/*.test.{ts,tsx}'],
      transformIgnorePatterns: [
        '/node_modules/(?!((jest-)?react-native|@react-native(-community)?|expo(nent)?|@expo(nent)?/.*|@expo-google-fonts/.*|react-navigation|@react-navigation/.*|react-native-svg|react-native-paper|react-redux|@reduxjs/toolkit|immer|redux|reselect|redux-thunk|uuid|canonicalize|idb|@gavrel|standard-navigation))',
      ],
    },
  ],
};
