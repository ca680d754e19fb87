"""By which ends of their names files are offered; what they are, their content says."""

STILL_SUFFIXES = frozenset({".png", ".jpg", ".jpeg", ".webp", ".tif", ".tiff", ".bmp", ".gif", ".svg"})
VIDEO_SUFFIXES = frozenset(
    {
        ".mp4",
        ".mov",
        ".mkv",
        ".webm",
        ".avi",
        ".m4v",
        ".mpg",
        ".mpeg",
        ".ts",
        ".mts",
        ".m2ts",
        ".mxf",
        ".3gp",
        ".ogv",
    }
)
SOUND_SUFFIXES = frozenset({".wav", ".flac", ".mp3", ".ogg", ".m4a", ".opus", ".aac", ".aif", ".aiff"})
MEDIA_SUFFIXES = STILL_SUFFIXES | VIDEO_SUFFIXES | SOUND_SUFFIXES
