const side = 192

/** The middle of a picture as a square of 192 pixels, as PNG; throws a sentence about a file that is no picture. */
export async function smallPicture(file: Blob): Promise<Blob> {
  const picture = await createImageBitmap(file).catch(() => {
    throw new Error('This file is no picture that can be read; choose a PNG or a JPEG.')
  })
  const canvas = document.createElement('canvas')
  canvas.width = side
  canvas.height = side
  const least = Math.min(picture.width, picture.height)
  const [left, top] = [(picture.width - least) / 2, (picture.height - least) / 2]
  canvas.getContext('2d')?.drawImage(picture, left, top, least, least, 0, 0, side, side)
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('This picture could not be made small.')))),
  )
}
