import { useRef, useState } from 'react';
import { paths } from '../../../contract/paths';
import type { RunGroundView } from '../../../contract/views';

interface Props {
  readonly ground: RunGroundView;
  readonly width: number;
  readonly height: number;
}

/** A clip beneath its marks, played or held at a moment. */
export function ClipPlayer({ ground, width, height }: Props) {
  const video = useRef<HTMLVideoElement>(null);
  const [now, setNow] = useState(0);
  const [isPlaying, setPlaying] = useState(false);
  const length = ground.seconds ?? 0;
  const toggle = () => {
    const player = video.current;
    if (!player) return;
    if (player.paused) void player.play();
    else player.pause();
  };
  return (
    <>
      <video
        ref={video}
        className="place-video"
        src={paths.runGroundOriginal(ground.id)}
        style={{ width, height }}
        muted
        loop
        playsInline
        preload="auto"
        onTimeUpdate={(e) => setNow(e.currentTarget.currentTime)}
        onPlay={() => setPlaying(true)}
        onPause={() => setPlaying(false)}
      />
      <div className="clip-bar">
        <button type="button" onClick={toggle}>
          {isPlaying ? 'Hold' : 'Play'}
        </button>
        <input
          type="range"
          aria-label="Moment of the clip"
          min={0}
          max={length}
          step={0.04}
          value={now}
          onChange={(e) => {
            if (!video.current) return;
            video.current.pause();
            video.current.currentTime = Number(e.target.value);
            setNow(Number(e.target.value));
          }}
        />
        <span className="numbers small">
          {now.toFixed(1)} of {length.toFixed(1)} s
        </span>
      </div>
    </>
  );
}
