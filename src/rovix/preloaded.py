"""What the server of processes imports once, for all that are forked from it. Nobody else imports this."""

import gc

import av
import cv2
import fontTools.unicodedata
import numpy
import PIL.Image
import resvg_py
import skia
import uharfbuzz
import uniseg.emoji
import uniseg.graphemecluster
import uniseg.linebreak
import uniseg.wordbreak

import rovix.engine.card_project
import rovix.engine.estimate_process
import rovix.engine.export
import rovix.engine.file_views
import rovix.engine.picture_worker
import rovix.media.probe
import rovix.motion.ready_moves

IMPORTED = (av, cv2, fontTools, numpy, PIL.Image, resvg_py, skia, uharfbuzz, uniseg, rovix)
# What is there now stays: counting it anew in each process would copy its pages.
gc.freeze()
gc.enable()
