// node validate.js VALIDATOR FILE: what the validator in that folder says of a .glb, as JSON.
const [folder, file] = process.argv.slice(2);
const validator = require(folder);
const bytes = new Uint8Array(require('fs').readFileSync(file));
validator.validateBytes(bytes).then((report) => console.log(JSON.stringify(report)), (trouble) => {
    console.error(trouble);
    process.exit(1);
});
