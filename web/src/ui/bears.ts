/** Tells of a text whether it holds every one of `words`, whatever their case; without words every text does. */
export function bears(words: string): (text: string) => boolean {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  return (text) => wanted.every((word) => text.toLowerCase().includes(word));
}
