/** A lighthouse on its rock, to begin with where nobody has a picture at hand. */
const LIGHTHOUSE =
  '<svg xmlns="http://www.w3.org/2000/svg" width="900" height="900" viewBox="0 0 90 90"><rect width="90" height="90" fill="#fff"/>' +
  '<g fill="#111"><path d="M36 78 40 34h10l4 44zM38 30h14v4H38zM40 20h10v10H40zM39 20l6-8 6 8z"/><path d="M14 84q10-12 22-8h18q14-4 24 8z"/></g>' +
  '<g fill="#fff"><path d="M38.6 50l.8-7h11.2l.8 7zM37.4 64l.7-7h13.8l.7 7z"/></g>' +
  '<g fill="none" stroke="#111" stroke-width="1.4"><path d="M36 24 12 16M36 27H10M54 24l24-8M54 27h26"/></g></svg>'
/** Pixels of a side: enough for 90 mm. */
const SIDE = 900

/** The picture as a file, as if it had been dropped. */
export async function firstPicture(): Promise<File> {
  const url = URL.createObjectURL(new Blob([LIGHTHOUSE], { type: 'image/svg+xml' }))
  try {
    const image = new Image(SIDE, SIDE)
    image.src = url
    await image.decode()
    const canvas = new OffscreenCanvas(SIDE, SIDE)
    canvas.getContext('2d')!.drawImage(image, 0, 0, SIDE, SIDE)
    return new File([await canvas.convertToBlob({ type: 'image/png' })], 'lighthouse.png', { type: 'image/png' })
  } finally {
    URL.revokeObjectURL(url)
  }
}
