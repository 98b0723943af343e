// Records where actors are, a row an actor and tick: CSV, or lines of JSON where the file's name ends in .jsonl.
using System;
using System.IO;
using System.Text;

sealed class Recorder : IDisposable {
    readonly StreamWriter file;
    readonly StringBuilder rows = new StringBuilder();
    readonly string[] between = { "", ",", ",", "e-4,", "e-4,", ",", ",", "\n" };

    public Recorder(string path) {
        file = new StreamWriter(path, false, new UTF8Encoding(false));
        AppDomain.CurrentDomain.ProcessExit += (sender, arguments) => Dispose();  // what is still in memory
        if (path.EndsWith(".jsonl"))
            between = new[] { "{\"tick\":", ",\"actor\":\"", "\",\"x\":", "e-4,\"y\":", "e-4,\"facing\":\"", "\",\"animation\":\"", "\",\"frame\":", "}\n" };
        else rows.Append("tick,actor,x,y,facing,animation,frame\n");
    }

    public void Row(long tick, string actor, double x, double y, bool right, string animation, int frame) {
        rows.Append(between[0]).Append(tick).Append(between[1]).Append(actor).Append(between[2]).Append(Place(x)).Append(between[3]).Append(Place(y));
        rows.Append(between[4]).Append(right ? "right" : "left").Append(between[5]).Append(animation).Append(between[6]).Append(frame).Append(between[7]);
        if (rows.Length > 60000) Flush();
    }

    static long Place(double v) { return (long)Math.Round(v * 1e4); }  // in 1/10000 px: whole numbers are written faster than fractions

    public void Flush() { file.Write(rows.ToString()); file.Flush(); rows.Clear(); }

    public void Dispose() { if (rows.Length > 0) Flush(); file.Dispose(); }
}

// A walk, in place of a game: argument 1 is the file, 2 the ground's y.
static class Walk {
    static void Main(string[] arguments) {
        var ground = double.Parse(arguments[1], System.Globalization.CultureInfo.InvariantCulture);
        using (var recorder = new Recorder(arguments[0]))
            for (long tick = 0; tick < 200; tick++)
                recorder.Row(tick, "hand", 64.0 + 1.5 * tick, ground, true, "walk", (int)(tick / 6 % 4));
    }
}
