package ohmoscope.web;

import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.URI;

/** Stands for an application that answers its first request, and is gone. */
final class DiesAtOnce {
    private DiesAtOnce() {}

    public static void main(String[] args) throws IOException {
        URI database = URI.create(System.getenv("SPRING_DATASOURCE_URL").substring("jdbc:".length()));
        try (Socket there = new Socket(InetAddress.getLoopbackAddress(), database.getPort())) {
            System.out.println("database " + (there.isConnected() ? "there" : "away"));
        }
        int port = Integer.parseInt(System.getenv("SERVER_PORT"));
        HttpServer server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 0);
        server.createContext("/", exchange -> {
            exchange.sendResponseHeaders(200, -1);
            exchange.close();
            Runtime.getRuntime().halt(1);
        });
        server.start();
    }
}
