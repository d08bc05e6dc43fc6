package yoru.server.setup;

import java.net.IDN;
import java.net.URI;
import java.net.URISyntaxException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import yoru.server.systems.Connector.AddressForm;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/**
 * What somebody pasted as the address of a system, put right. What is changed is said.
 *
 * @param address as it is kept; empty where nothing can be made of it
 * @param changes what was put right, in words
 * @param fault why nothing can be made of it
 */
record PastedAddress(
        String address, List<String> changes, @Nullable String fault) {

    private static final Pattern SCHEME = Pattern.compile("([a-zA-Z][a-zA-Z0-9+.-]*):/*(.*)");
    private static final Pattern HOST_AND_PORT =
            Pattern.compile("(\\[[0-9a-fA-F:.]+]|[^:/?#\\[\\]@\\s]+)(?::(\\d{1,5}))?");
    private static final Pattern RESOURCE =
            Pattern.compile("/(Users|Groups|Areas|Schemas|ResourceTypes|ServiceProviderConfig)(/.*)?$");

    PastedAddress {
        changes = List.copyOf(changes);
    }

    static PastedAddress of(String pasted, AddressForm form) {
        var changes = new ArrayList<String>();
        var text = form == AddressForm.FOLDER ? pasted.strip() : cleaned(pasted, changes);
        if (text.isEmpty()) {
            return faulty(changes, "Paste the address of the system.");
        }
        return form == AddressForm.FOLDER ? folder(text, changes) : address(text, form, changes);
    }

    /** The same with what was found when it was looked up; only what is not allowed makes it unusable. */
    PastedAddress noting(TroubleException trouble) {
        if (trouble.trouble() == Trouble.NOT_ALLOWED) {
            return new PastedAddress(address, changes, "It " + trouble.words() + ".");
        }
        var more = new ArrayList<>(changes);
        more.add("at present it " + trouble.words());
        return new PastedAddress(address, more, null);
    }

    private static String cleaned(String pasted, List<String> changes) {
        var text = pasted.strip();
        if (text.length() < pasted.length()) {
            changes.add("spaces around it were left out");
        }
        var bare = text.replaceAll("^[<\"'“‘(]+|[>\"'”’),;]+$", "");
        if (bare.length() < text.length()) {
            changes.add("what stood around it was left out");
        }
        var joined = bare.replaceAll("[\\s\\u200B\\u00A0]+", "");
        if (joined.length() < bare.length()) {
            changes.add("spaces within it were left out");
        }
        return joined;
    }

    private static PastedAddress folder(String text, List<String> changes) {
        var name = text.replaceAll(".*[/\\\\]", "")
                .replaceAll("[^A-Za-z0-9_-]+", "-")
                .toLowerCase(Locale.ROOT);
        if (!name.equals(text)) {
            changes.add("only a folder's name is kept");
        }
        return name.isBlank() || name.equals("-")
                ? faulty(changes, "Give the folder a name.")
                : new PastedAddress(name, changes, null);
    }

    private static PastedAddress address(String text, AddressForm form, List<String> changes) {
        var scheme = SCHEME.matcher(text);
        boolean hasScheme =
                scheme.matches() && (text.contains("://") || !scheme.group(2).matches("\\d+.*"));
        var rest = hasScheme ? scheme.group(2) : text;
        int end = indexOfAny(rest, "/?#");
        var authority = rest.substring(0, end);
        var path = rest.substring(end);
        if (authority.contains("@")) {
            changes.add("the name and password in it were left out: they are entered by themselves");
            authority = authority.substring(authority.lastIndexOf('@') + 1);
        }
        var host = HOST_AND_PORT.matcher(authority);
        if (!host.matches()) {
            return faulty(changes, "This is no address: there is no host in it.");
        }
        var name = plain(host.group(1));
        if (name == null || !(name.startsWith("[") || name.contains(".") || name.equals("localhost"))) {
            return faulty(changes, "“" + host.group(1) + "” is no host that can be reached.");
        }
        var asked = hasScheme ? scheme.group(1).toLowerCase(Locale.ROOT) : "";
        var usual = form == AddressForm.MAIL ? "smtp" : isHere(name) ? "http" : "https";
        var allowed = form == AddressForm.MAIL ? List.of("smtp", "smtps") : List.of("http", "https");
        if (asked.isEmpty()) {
            changes.add(usual + ":// was put before it");
        } else if (!allowed.contains(asked)) {
            changes.add(asked + ":// was replaced by " + usual + "://");
        }
        var kept = allowed.contains(asked) ? asked : usual;
        var port = port(host.group(2), kept);
        if (port == null) {
            return faulty(changes, host.group(2) + " is no port.");
        }
        var address = kept + "://" + name + port + path(path, form, changes);
        try {
            return new PastedAddress(new URI(address).toString(), changes, null);
        } catch (URISyntaxException e) {
            return faulty(changes, "This is no address: " + e.getReason() + ".");
        }
    }

    private static String path(String path, AddressForm form, List<String> changes) {
        int query = indexOfAny(path, "?#");
        var bare = path.substring(0, query).replaceAll("/+$", "");
        return switch (form) {
            case WEB, MAIL -> {
                if (!bare.isEmpty() || query < path.length()) {
                    changes.add("only the host is kept, not the page “" + path + "”");
                }
                yield "";
            }
            case WEB_BASE -> {
                var base = RESOURCE.matcher(bare).replaceFirst("");
                if (!base.equals(bare) || query < path.length()) {
                    changes.add("only where the interface begins is kept");
                }
                yield base;
            }
            case WEB_WITH_PATH -> {
                int fragment = indexOfAny(path, "#");
                if (fragment < path.length()) {
                    changes.add("what stood after # was left out");
                }
                yield path.substring(0, fragment);
            }
            case FOLDER -> "";
        };
    }

    private static @Nullable String plain(String host) {
        if (host.startsWith("[")) {
            return host.toLowerCase(Locale.ROOT);
        }
        try {
            return IDN.toASCII(host.replaceAll("\\.+$", ""), IDN.USE_STD3_ASCII_RULES)
                    .toLowerCase(Locale.ROOT);
        } catch (IllegalArgumentException e) {
            return null;
        }
    }

    private static @Nullable String port(@Nullable String port, String scheme) {
        if (port == null) {
            return "";
        }
        int number = Integer.parseInt(port);
        if (number < 1 || number > 65_535) {
            return null;
        }
        boolean usual = (scheme.equals("https") && number == 443) || (scheme.equals("http") && number == 80);
        return usual ? "" : ":" + number;
    }

    private static boolean isHere(String host) {
        return host.equals("localhost") || host.startsWith("127.") || host.equals("[::1]");
    }

    private static int indexOfAny(String text, String characters) {
        for (int at = 0; at < text.length(); at++) {
            if (characters.indexOf(text.charAt(at)) >= 0) {
                return at;
            }
        }
        return text.length();
    }

    private static PastedAddress faulty(List<String> changes, String fault) {
        return new PastedAddress("", changes, fault);
    }
}
