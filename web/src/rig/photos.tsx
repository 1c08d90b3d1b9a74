import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import { api, Refusal, told, type Schemas } from "../api/client";
import { Dialog, FileButton } from "../ui";
import { Problems } from "./parts/problems";

/** Sends a photo as it is; what is kept of it is drawn anew by the server, without where it was taken. */
const addPhoto = (file: File) =>
  told(
    api.POST("/api/photos", {
      body: file as unknown as string,
      headers: { "Content-Type": file.type || "application/octet-stream" },
      bodySerializer: (body: unknown) => body as BodyInit,
    }),
  );

export const photoAddress = (id: Schemas["Photo"]["id"], small = false) => `/api/photos/${id}${small ? "?small=true" : ""}`;

/** Take a photo, or choose one; shown small until what it goes with is said. */
export function PhotoButton({ photos, onPhotos }: { photos: readonly string[]; onPhotos: (photos: string[]) => void }) {
  const send = useMutation({ mutationFn: addPhoto, onSuccess: ({ id }) => onPhotos([...photos.filter((one) => one !== id), id]) });
  return (
    <div className="flex flex-wrap items-center gap-2">
      <FileButton
        label="Photo"
        accept="image/jpeg,image/png,image/webp"
        disabled={send.isPending || photos.length >= 8}
        onChosen={(file) => send.mutate(file)}
      >
        {send.isPending ? "Sending the photo" : "Add a photo"}
      </FileButton>
      <Photos photos={photos} />
      {send.error && <Problems refusal={send.error instanceof Refusal ? send.error : undefined} />}
    </div>
  );
}

/** Photos, small; a tap shows one large. */
export function Photos({ photos }: { photos: readonly string[] }) {
  const [large, setLarge] = useState<string>();
  if (photos.length === 0) return null;
  return (
    <>
      {photos.map((photo, number) => (
        <button
          key={photo}
          type="button"
          className="size-16 overflow-hidden rounded-md border border-edge"
          aria-label={`Photo ${number + 1}, show it large`}
          onClick={() => setLarge(photo)}
        >
          <img src={photoAddress(photo, true)} alt="" className="size-full object-cover" />
        </button>
      ))}
      <Dialog open={large !== undefined} onClose={() => setLarge(undefined)} title="Photo">
        {large && <img src={photoAddress(large)} alt="Photo from the log" className="mx-auto max-h-[70dvh] max-w-full" />}
      </Dialog>
    </>
  );
}
