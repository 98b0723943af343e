-- Prints every shape and thing of a pack, a line each.
local pack = dofile("pier.lua")

local function numbers(list)
  local text = ""
  for _, number in ipairs(list or {}) do text = text .. string.format(" %.17g", number) end
  return text
end

local function rings(list)
  local text = ""
  for _, ring in ipairs(list or {}) do
    for _, point in ipairs(ring) do text = text .. numbers(point) end
    text = text .. " |"
  end
  return text
end

for _, actor in ipairs(pack.actors) do
  local meanings = {}
  for _, of in ipairs(actor.shapes) do meanings[of.name] = of end
  for _, frame in ipairs(actor.frames) do
    for _, side in ipairs(frame.sides) do
      for _, shape in ipairs(side.shapes) do
        local of = meanings[shape.shape]
        print(string.format("%s %s %d %d %s %s %d %d:", actor.name, frame.animation, frame.frame, frame.ticks,
          side.facing, of.name, of.layer, of.mask)
          .. numbers(shape.box or shape.circle or shape.capsule) .. " |"
          .. rings(shape.outline) .. rings(shape.holes) .. rings(shape.pieces))
      end
    end
  end
end
for _, actor in ipairs(pack.actors) do
  for _, of in ipairs(actor.shapes) do
    local anchors = ""
    for _, anchor in ipairs(of.part_anchors or {}) do anchors = anchors .. " " .. anchor.anchor end
    print(string.format("%s %s %s %s%s: %d %d", actor.name, of.name, of.settle or "-", of.blocked_from or "-", anchors,
      of.again_after or 0, of.blocked_by or 0))
  end
end
for _, alias in ipairs(pack.layers.aliases) do
  print(string.format("%s %s: %d", pack.layers.contact, alias.name, alias.layers))
end
for _, state in ipairs(pack.layers.states) do
  for _, of in ipairs(state.changes) do
    print(string.format("%s: %d %d %d %d %d", state.name, of.layer, of.add, of.drop, of.join, of.leave))
  end
end
for _, stage in ipairs(pack.stages) do
  for _, sort in ipairs({ "solids", "one_ways", "zones" }) do
    for _, thing in ipairs(stage[sort]) do
      print(string.format("%s %s %d %d:", stage.name, thing.name, thing.layer, thing.mask)
        .. rings({ thing.outline }) .. rings(thing.holes) .. rings(thing.pieces))
    end
  end
end
