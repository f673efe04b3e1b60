"""The picture of a body on its lands, as an image for reports."""

from PIL import Image

from eider.bodies.body_solids import body_solids, on_lands
from eider.drawings.role_styles import palette
from eider.errors import EiderError
from eider.model.bundle import Bundle


def body_picture(bundle: Bundle, width: int, height: int) -> Image.Image:
    """Render the body over its lands.

    Raises:
        EiderError: the sheet is not complete, or OpenGL is not usable here.
    """
    from eider.bodies.body_mesh import make_mesh
    from eider.bodies.body_renderer import Camera, Renderer

    if bundle.footprint.pattern is None:
        raise EiderError("no picture of the body: there are no lands yet")
    solids = on_lands(body_solids(bundle.sheet, bundle.body), bundle.footprint.pattern)
    renderer = Renderer()
    try:
        renderer.show(make_mesh(solids))
        paper = palette()["paper"]
        red, green, blue = (int(paper[i : i + 2], 16) / 255 for i in (1, 3, 5))
        return Image.fromarray(renderer.picture(Camera(), width, height, (red, green, blue)))
    finally:
        renderer.close()
