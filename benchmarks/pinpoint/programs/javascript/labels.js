// Labels for the luggage: initials, codes and tidy names.
function initials(name) {
  return name
    .split(" ")
    .map((part) => part[0].toUpperCase())
    .join("");
}

function tidy(name) {
  const words = name.trim().toLowerCase().split(/\s+/);
  const out = [];
  for (const word of words) {
    out.push(word[0].toUpperCase() + word.slice(1));
  }
  return out.join(" ");
}

function label(name, number) {
  const digits = String(number).padStart(4, "0");
  return `${initials(name)}-${digits}`;
}

function isLabel(text) {
  const [letters, digits] = text.split("-");
  return letters.length >= 2 && digits !== undefined && digits.length === 4;
}
