"""How a film is written, as options of ffmpeg."""

from collections.abc import Mapping, Sequence
from pathlib import Path
from types import MappingProxyType

from dunlin.core.delivery.encoding import Codec, Encoding, Quality
from dunlin.core.messages import BadInput, message
from dunlin.media.probe import audio_streams

__all__ = ["GREATEST_CRF", "finishing", "picture_codec", "sound_codecs"]

GREATEST_CRF: Mapping[Codec, int] = MappingProxyType({"h264": 51, "hevc": 51, "vp9": 63})
"""The greatest constant rate factors of x264, x265 and libvpx; 0 is the best."""

# "film" is where a captioned copy looks as the film does. HEVC and VP9 count in measures of their own: those that x265 and
# libvpx name as looking alike (x265's default of 28 for x264's 23, libvpx's 31 for 720 to 1080 lines).
_CRF: Mapping[Codec, Mapping[Quality, int]] = {
    "h264": {"best": 16, "film": 20, "small": 26},
    "hevc": {"best": 20, "film": 25, "small": 31},
    "vp9": {"best": 20, "film": 28, "small": 38},
}
_PRORES_PROFILES: Mapping[Quality, str] = {"best": "hq", "film": "standard", "small": "lt"}

# Sounds that containers hold and their players know: of MP4 by ISO/IEC 14496-14 and ETSI TS 102 366.
_KEPT_SOUNDS = {
    ".mp4": frozenset({"aac", "mp3", "ac3", "eac3"}),
    ".webm": frozenset({"opus", "vorbis"}),
    ".mov": frozenset({"aac", "alac", "pcm_s16le", "pcm_s24le", "pcm_s16be", "pcm_s24be"}),
    ".mkv": None,
}
_SOUNDS_ANEW = {
    ".mp4": ("aac", "-b:a:{n}", "160k"),
    ".webm": ("libopus", "-b:a:{n}", "128k"),
    ".mov": ("pcm_s16le",),
    ".mkv": ("aac", "-b:a:{n}", "160k"),
}


def picture_codec(encoding: Encoding, *, deep: bool) -> list[str]:
    """ffmpeg's options for the picture.

    :param deep: whether the film has more than 8 bits a sample; ProRes always has 10
    :raises BadInput: when the codec has no such constant rate factor
    """
    codec = encoding.codec
    if codec == "prores":
        if encoding.crf is not None:
            raise BadInput(message("encoding.no-crf", codec="ProRes"))
        profile = _PRORES_PROFILES[encoding.quality]
        return ["-c:v", "prores_ks", "-profile:v", profile, "-pix_fmt", "yuv422p10le"]
    crf = _CRF[codec][encoding.quality] if encoding.crf is None else encoding.crf
    if not 0 <= crf <= GREATEST_CRF[codec]:
        raise BadInput(message("encoding.crf-too-great", crf=crf, greatest=GREATEST_CRF[codec]))
    pixels = ["-pix_fmt", "yuv420p10le" if deep else "yuv420p"]
    if codec == "h264":
        return ["-c:v", "libx264", "-preset", "medium", "-crf", str(crf), *pixels]
    if codec == "hevc":
        # Players of Apple's know HEVC in MP4 by this name alone (ISO/IEC 14496-15, 8.4.1).
        quiet = ["-x265-params", "log-level=error", "-tag:v", "hvc1"]
        return ["-c:v", "libx265", "-preset", "medium", "-crf", str(crf), *quiet, *pixels]
    return ["-c:v", "libvpx-vp9", "-crf", str(crf), "-b:v", "0", "-row-mt", "1", "-deadline", "good",
            "-cpu-used", "3", *pixels]  # fmt: skip


def sound_codecs(film: Path, ending: str, *, anew: bool = False) -> list[str]:
    """ffmpeg's options for each sound of a film: copied as it is where the container can hold it, else written anew.

    :param ending: of the file that is written, with its dot
    :param anew: whether even those are that could be copied
    """
    kept, options = _KEPT_SOUNDS[ending], []
    for number, sound in enumerate(audio_streams(film)):
        if not anew and (kept is None or sound.codec in kept):
            options += [f"-c:a:{number}", "copy"]
        else:
            codec, *rest = _SOUNDS_ANEW[ending]
            options += [f"-c:a:{number}", codec, *(word.format(n=number) for word in rest)]
    return options


def finishing(ending: str, *, fast_start: bool) -> Sequence[str]:
    """ffmpeg's options for the file as a whole."""
    return ["-movflags", "+faststart"] if fast_start and ending in (".mp4", ".mov") else []
