// Bundles an audio worklet with everything it imports into one ES module, and tells the bundler what it was made from.
const path = require('node:path');
const esbuild = require('esbuild');

module.exports = function workletLoader() {
  const done = this.async();
  const root = this.rootContext || process.cwd();
  const production = process.env.NODE_ENV === 'production';
  esbuild
    .build({
      entryPoints: [this.resourcePath],
      absWorkingDir: root,
      bundle: true,
      write: false,
      metafile: true,
      format: 'esm',
      target: 'es2022',
      minify: production,
      sourcemap: production ? false : 'inline',
      logLevel: 'silent',
    })
    .then(({ metafile, outputFiles }) => {
      for (const input of Object.keys(metafile.inputs)) this.addDependency(path.resolve(root, input));
      done(null, outputFiles[0].text);
    }, done);
};
