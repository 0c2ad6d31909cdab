const TREE = {
  name: "mast", watts: 5,
  parts: [
    { name: "lamp", watts: 40, parts: [] },
    { name: "radio", watts: 12, parts: [{ name: "dial", watts: 1, parts: [] }] },
  ],
};

function total(node) {
  return node.watts + node.parts.reduce((sum, part) => sum + total(part), 0);
}

function depth(node) {
  return 1 + Math.max(0, ...node.parts.map(depth));
}

function find(node, name) {
  if (node.name === name) {
    return [node.name];
  }
  for (const part of node.parts) {
    const path = find(part, name);
    if (path.length > 0) {
      return [node.name, ...path];
    }
  }
  return [];
}

function list(node, level = 0) {
  const lines = ["  ".repeat(level) + node.name];
  for (const part of node.parts) {
    lines.push(...list(part, level + 1));
  }
  return lines;
}
