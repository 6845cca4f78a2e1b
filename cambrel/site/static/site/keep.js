// What this browser remembers. Where it refuses to (storage blocked or full), nothing is remembered and nothing fails.
export function keeping(area) {
  return {
    get(key, otherwise = null) {
      try {
        return area().getItem(key) ?? otherwise;
      } catch {
        return otherwise;
      }
    },
    set(key, value) {
      try {
        area().setItem(key, value);
      } catch {
        // it works without
      }
    },
    record(key) {
      try {
        return JSON.parse(this.get(key));
      } catch {
        return null;
      }
    },
  };
}

export const always = keeping(() => window.localStorage);
export const thisTab = keeping(() => window.sessionStorage);
