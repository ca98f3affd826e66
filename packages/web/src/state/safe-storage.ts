/** What a person set in this browser. One without storage (private window, full disk) forgets it when the page is closed. */
export const safeStorage: Pick<Storage, 'getItem' | 'setItem'> = {
  getItem(key) {
    try {
      return localStorage.getItem(key);
    } catch {
      return null;
    }
  },
  setItem(key, value) {
    try {
      localStorage.setItem(key, value);
    } catch {
      // it holds until the page is closed
    }
  },
};
