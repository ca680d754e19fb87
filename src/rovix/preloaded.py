"""What the server of processes imports once, for all that are forked from it. Nobody else imports this."""

import gc

import av
import cv2
import numpy
import PIL.Image
import resvg_py
import skia
import uharfbuzz

import rovix.engine.card_project
import rovix.engine.export_process
import rovix.engine.picture_worker
import rovix.engine.thumbnails
import rovix.motion.ready_moves

IMPORTED = (av, cv2, numpy, PIL.Image, resvg_py, skia, uharfbuzz, rovix)
# What is there now stays: counting it anew in each process would copy its pages.
gc.collect()
gc.freeze()
