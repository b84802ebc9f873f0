package ohmoscope.web.config;

import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;

/** A file that a browser keeps instead of showing it. */
public final class Download {
    private Download() {}

    /** @param body the bytes, or what writes them */
    public static <T> ResponseEntity<T> of(String name, MediaType type, T body) {
        return ResponseEntity.ok()
                .contentType(type)
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment().filename(name).build().toString())
                .body(body);
    }
}
