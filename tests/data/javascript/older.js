const { twice, Shelf } = require('./shelf');
console.log(twice(4)); const s = new Shelf(); s.put("a"); console.log(s.items, require.main === module, __filename.endsWith("older.js"));
module.exports = { twice };
