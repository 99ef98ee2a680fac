import { must } from "@core";
const LONGEST_SIDE = 1600;

/** Makes a picture smaller in the browser before it is sent: signals in basements are thin. The file as it is when it cannot be read. */
export async function shrinkPhoto(file: File): Promise<File> {
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, LONGEST_SIDE / Math.max(picture.width, picture.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(picture.width * scale);
  canvas.height = Math.round(picture.height * scale);
  must(canvas.getContext("2d")).drawImage(picture, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, "image/jpeg", 0.8));
  if (!blob || blob.size >= file.size) return file;
  return new File([blob], "photo.jpg", { type: "image/jpeg" });
}
