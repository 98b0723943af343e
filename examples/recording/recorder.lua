-- Records where actors are, a row an actor and tick: CSV, or lines of JSON where the file's name ends in .jsonl.
local Recorder = {}
Recorder.__index = Recorder

function Recorder.open(path)
    local file = assert(io.open(path, "w"))
    file:setvbuf("full", 65536) -- written in blocks; Lua writes the last one when it closes
    local json = path:match("%.jsonl$") ~= nil
    if not json then file:write("tick,actor,x,y,facing,animation,frame\n") end
    local form = json and '{"tick":%d,"actor":"%s","x":%.9g,"y":%.9g,"facing":"%s","animation":"%s","frame":%d}\n'
        or "%d,%s,%.9g,%.9g,%s,%s,%d\n"
    return setmetatable({ file = file, form = form }, Recorder)
end

function Recorder:row(tick, actor, x, y, right, animation, frame)
    self.file:write(self.form:format(tick, actor, x, y, right and "right" or "left", animation, frame))
end

function Recorder:close() self.file:close() end

-- A walk, in place of a game: argument 1 is the file, 2 the ground's y.
local recorder = Recorder.open(arg[1])
for tick = 0, 199 do
    recorder:row(tick, "hand", 64 + 1.5 * tick, tonumber(arg[2]), true, "walk", tick // 6 % 4)
end
recorder:close()
