package yoru.cli;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** {@code yoru evaluate}, {@code yoru followups}, {@code yoru rehearse}, {@code yoru check} and {@code yoru rulebook}. */
@Command(name = "yoru", synopsisSubcommandLabel = "(evaluate | followups | rehearse | check | rulebook)")
public final class Main {

    /** Said of input that cannot be used, and of a command that was not understood. */
    static final int UNUSABLE = 2;

    private Main() {}

    public static void main(String[] args) {
        System.exit(run(System.in, new FileOutputStream(FileDescriptor.out), System.err, args));
    }

    static int run(InputStream in, OutputStream out, OutputStream err, String... args) {
        var messages = new PrintStream(err, true, StandardCharsets.UTF_8);
        var files = new Files(in);
        return new CommandLine(new Main())
                .addSubcommand(new Evaluate(files, out, messages))
                .addSubcommand(new FollowupsCommand(files, out))
                .addSubcommand(new Rehearse(files, out, messages))
                .addSubcommand(new Check(files, out, messages))
                .addSubcommand(new CommandLine(new RulebookFiles())
                        .addSubcommand(new RulebookFiles.Diff(files, out))
                        .addSubcommand(new RulebookFiles.Export(out))
                        .addSubcommand(new RulebookFiles.Import(files, out)))
                .setErr(new PrintWriter(messages, true, StandardCharsets.UTF_8))
                .setOut(new PrintWriter(out, true, StandardCharsets.UTF_8))
                .setExecutionExceptionHandler((failure, command, parsed) -> {
                    if (failure instanceof UnusableException unusable) {
                        unusable.lines().forEach(messages::println);
                        return UNUSABLE;
                    }
                    if (failure instanceof IOException) {
                        messages.println("yoru: " + failure.getMessage());
                        return CommandLine.ExitCode.SOFTWARE;
                    }
                    throw failure;
                })
                .execute(args);
    }
}
