const PATIENCE = 8_000;

/** Whether a browser can play a film: it is asked, not told by the name. */
export function playsHere(file: Blob): Promise<boolean> {
  const film = document.createElement('video');
  const src = URL.createObjectURL(file);
  return new Promise<boolean>((done) => {
    const timer = setTimeout(() => done(false), PATIENCE);
    film.onloadeddata = () => done(film.videoWidth > 0);
    film.onerror = () => done(false);
    film.onabort = () => clearTimeout(timer);
    film.muted = true;
    film.preload = 'auto';
    film.src = src;
  }).finally(() => {
    film.removeAttribute('src');
    URL.revokeObjectURL(src);
  });
}
