-- rings that show how full the nets are
require 'cairo'

settings = {
  { name = 'net1', max = 100, fg_colour = 0xff2fa0, fg_alpha = 0.9, bg_colour = 0x3a3f44, bg_alpha = 0.4, radius = 60 },
  { name = 'net2', max = 100, fg_colour = 0x4d5559, fg_alpha = 0.9, bg_colour = 0x3a3f44, bg_alpha = 0.4, radius = 48 },
  { name = 'net3', max = 100, fg_colour = 0x2b4a6e, fg_alpha = 0.9, bg_colour = 0x3a3f44, bg_alpha = 0.4, radius = 36 },
}

function conky_rings()
  if conky_window == nil then return end
end
