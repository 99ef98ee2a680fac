import type { BarcodeDetector as Detector } from "barcode-detector/ponyfill";
import { ScanLine } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import decoder from "zxing-wasm/reader/zxing_reader.wasm?url";

import { Modal, ModalClose } from "./modal";

const LOOK_MS = 150;

/** Reads a code with the device's camera. What cannot be read is typed: the field beside it stays. */
export function ScanCode({ label, onCode }: { label: string; onCode: (text: string) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <Modal
      open={open}
      onOpenChange={setOpen}
      title={label}
      trigger={
        <>
          <ScanLine size={20} aria-hidden="true" className="mr-1 inline" /> {label}
        </>
      }
    >
      <Camera
        onCode={(text) => {
          setOpen(false);
          onCode(text);
        }}
      />
      <p className="mt-3">
        <ModalClose>Type it instead</ModalClose>
      </p>
    </Modal>
  );
}

function Camera({ onCode }: { onCode: (text: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const found = useRef(onCode);
  const [says, setSays] = useState("The camera opens …");
  useEffect(() => {
    found.current = onCode;
  }, [onCode]);
  useEffect(() => {
    const screen = video.current;
    let stream: MediaStream | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const gone = new AbortController();
    const look = async (detector: Detector): Promise<void> => {
      // A picture that was half there is none; the next one comes at once.
      const codes = screen && screen.readyState >= 2 ? await detector.detect(screen).catch(() => []) : [];
      if (gone.signal.aborted) return;
      const [code] = codes;
      if (code) found.current(code.rawValue);
      else timer = setTimeout(() => void look(detector), LOOK_MS);
    };
    const begin = async (): Promise<void> => {
      stream = await cameraOf();
      if (gone.signal.aborted || !screen) {
        stop(stream);
        return;
      }
      screen.srcObject = stream;
      await screen.play();
      setSays("Hold the code in the picture.");
      await look(await makeDetector());
    };
    begin().catch((error: unknown) => {
      if (!gone.signal.aborted) setSays(whyNot(error));
    });
    return () => {
      gone.abort();
      clearTimeout(timer);
      stop(stream);
    };
  }, []);
  return (
    <>
      <video
        ref={video}
        muted
        playsInline
        className="aspect-[4/3] w-full bg-black object-cover"
        aria-label="The camera's picture"
      />
      <p role="status" className="mt-2 min-h-12">
        {says}
      </p>
    </>
  );
}

const stop = (stream: MediaStream | null): void => stream?.getTracks().forEach((track) => track.stop());

function cameraOf(): Promise<MediaStream> {
  // Browsers give the camera to pages over https only, and say nothing else where there is none.
  const devices = (navigator as { mediaDevices?: MediaDevices }).mediaDevices;
  if (!devices) throw new DOMException("", "NotSupportedError");
  return devices.getUserMedia({ video: { facingMode: "environment" }, audio: false });
}

async function makeDetector(): Promise<Detector> {
  const { BarcodeDetector, prepareZXingModule } = await import("barcode-detector/ponyfill");
  // The decoder comes from this server: devices in basements reach nothing else.
  prepareZXingModule({ overrides: { locateFile: () => decoder } });
  return new BarcodeDetector({ formats: ["qr_code", "data_matrix", "code_128", "code_39", "ean_13"] });
}

function whyNot(error: unknown): string {
  const name = error instanceof DOMException ? error.name : "";
  if (name === "NotAllowedError")
    return "! This device does not let the page use its camera. Allow it in the browser's settings, or type the code.";
  if (name === "NotFoundError") return "! This device has no camera. Type the code.";
  if (name === "NotSupportedError")
    return "! The camera works over https only, or this browser has none. Type the code.";
  return "! The camera did not open. Close what else uses it, or type the code.";
}
