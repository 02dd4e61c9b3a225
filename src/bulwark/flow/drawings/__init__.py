"""Geometry of the flow map: lanes, columns, bands, contacts, the wall and the violating path."""

from bulwark.flow.drawings.drawing import FITS, HEAD_H, LABEL_W, MAP_W, NARROWEST_PITCH, View, flow_map
from bulwark.flow.drawings.looks import TOKENS, SoilLook, palette, soil_look
from bulwark.flow.drawings.shapes import FlowMap, Head, Plaque
from bulwark.flow.drawings.wrapping import wrapped

__all__ = [
    "FITS",
    "HEAD_H",
    "LABEL_W",
    "MAP_W",
    "NARROWEST_PITCH",
    "TOKENS",
    "FlowMap",
    "Head",
    "Plaque",
    "SoilLook",
    "View",
    "flow_map",
    "palette",
    "soil_look",
    "wrapped",
]
