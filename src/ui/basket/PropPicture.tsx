"use client";
/** A prop's picture, rendered from its mesh. */
import type { Prop } from "@/core/scene";
import { usePictures } from "../assets/pictures";

export function PropPicture({ prop, size }: { prop: Prop; size: number }) {
  const pictures = usePictures(prop.asset);
  return (
    <span
      className="inline-grid shrink-0 place-items-center overflow-hidden rounded-md"
      style={{ width: size, height: size }}
    >
      {pictures && (
        // The picture is made in the browser; there is nothing for an image service to do.
        // eslint-disable-next-line @next/next/no-img-element
        <img src={pictures.cardUrl} alt="" width={size} height={size} draggable={false} />
      )}
    </span>
  );
}
