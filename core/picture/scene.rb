# frozen_string_literal: true

module Vumbral
  module Picture
    # Props as kernels take them: their triangles' corners [m, 9] in a tree of boxes [nodes, 6], normals
    # [m, 9], colours [m, 14] (red, green, blue, how uneven, in patches of so many metres; how much of a second colour
    # each corner has, that colour, and the glow of what is between both), which prop
    # each belongs to [m], which lamps light which of these u8 [lamps, props]; what they are made of
    # ({GlossKernels}) the textures that this asks for ({Geometry::Textures}), {Sheen.table}, and
    # corners and boxes of what throws shadows; where each corner lies in a picture [m, 6], and {Pictures};
    # how clear things gather the sun's light ({Caustics}).
    Scene = Kernel::Record.of(corners: Kernel::Types::F32[2], boxes: Kernel::Types::F32[2],
      normals: Kernel::Types::F32[2], colours: Kernel::Types::F32[2], owner: Kernel::Types::I32[1],
      links: Kernel::Types::U8[2], made: Kernel::Types::F32[2], textures: Kernel::Types::F32[2],
      sheen: Kernel::Types::F32[3], shade: Kernel::Types::F32[2], shade_boxes: Kernel::Types::F32[2],
      places: Kernel::Types::F32[2], pictures: Kernel::Types::F32[2], caustics: Kernel::Types::F32[2],
      lens: Kernel::Types::F32[1])
  end
end
